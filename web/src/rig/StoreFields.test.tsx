import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { answering, show } from "../app/testing";
import { CrewAccounts } from "./CrewAccounts";
import type { StoreDoc, Units } from "./fields";
import { StoreFields } from "./StoreFields";

const GALLON = 3.785411784;
const US: Units = {
  L: { unit: "gal", factor: 1 / GALLON, offset: 0 },
  kg: { unit: "lb", factor: 2.2, offset: 0 },
};

const fresh = {
  id: "fresh",
  kind: "fresh",
  name: "Fresh tank",
  capacity: 50 * GALLON,
  gauge: { kind: "steps", marks: [0, 0.33, 0.67, 1] },
} as StoreDoc;

const bank = {
  id: "house",
  kind: "battery",
  name: "Bank",
  capacity: 225,
  nominal_v: 6,
  chemistry: "flooded",
} as StoreDoc;

const draw = (store: StoreDoc) => {
  const change = vi.fn();
  show(<StoreFields store={store} units={US} assumed={(name) => name === "gauge"} change={change} remove={vi.fn()} />);
  return change;
};

const type = (label: string, value: string) => {
  const field = screen.getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};

const last = (change: ReturnType<typeof vi.fn>) => change.mock.lastCall?.[0] as StoreDoc;

describe("a store's fields", () => {
  it("show and take amounts in the user's units and keep litres", () => {
    const change = draw(fresh);
    expect(screen.getByLabelText("Capacity, gal")).toHaveValue("50");
    type("Capacity, gal", "60");
    expect(last(change).capacity).toBeCloseTo(60 * GALLON, 6);
  });

  it("take a mark measured while filling as a share of the tank", () => {
    const change = draw(fresh);
    type("Measured while filling: mark 67 % lights at, gal", "29");
    expect(last(change).gauge).toEqual({ kind: "steps", marks: [0, 0.33, 0.58, 1] });
  });

  it("leave the line to its kind when the field is emptied", () => {
    const change = draw({ ...fresh, limit: 0.1 });
    type("Lode line, % of capacity", "");
    expect(last(change).limit).toBeNull();
    expect(screen.getByText("Gauge (assumed)")).toBeVisible();
  });

  it("give another gauge what it needs", () => {
    const change = draw(fresh);
    fireEvent.change(screen.getByLabelText("Gauge (assumed)"), { target: { value: "sensor" } });
    expect(last(change).gauge).toEqual({ kind: "sensor", resolution: 0.02 });
  });

  it("write a bank as units in series and parallel from what it is", () => {
    const change = draw(bank);
    fireEvent.click(screen.getByRole("button", { name: "Write it as units in series and parallel" }));
    expect(last(change)).toMatchObject({
      capacity: null,
      layout: { unit_v: 6, unit_ah: 225, series: 1, parallel: 1 },
    });
  });

  it("keep where a bank sits only where it is said", () => {
    const change = draw(bank);
    fireEvent.change(screen.getByLabelText("Where it sits"), { target: { value: "warm" } });
    expect(last(change).kept_warm).toBe(true);
    fireEvent.change(screen.getByLabelText("Where it sits"), { target: { value: "cold" } });
    expect(change.mock.calls.every((call) => (call[0] as StoreDoc).kept_warm !== false)).toBe(true);
  });
});

describe("the crew of a rig", () => {
  const members = [
    { username: "mira", role: "owner" },
    { username: "tom", role: "crew" },
  ];

  it("is changed by its owner alone", async () => {
    answering({ "GET /crew": members });
    const { unmount } = show(<CrewAccounts rig={7} owner={false} />);
    expect(await screen.findByText("tom, crew")).toBeVisible();
    expect(screen.queryByRole("button")).toBeNull();
    unmount();
    show(<CrewAccounts rig={7} owner />);
    expect(await screen.findByRole("button", { name: "Take tom off" })).toBeVisible();
    expect(screen.queryByRole("button", { name: "Take mira off" })).toBeNull();
  });

  it("says why an account cannot be put on it", async () => {
    const asked = answering({
      "GET /crew": members,
      "POST /crew": { status: 422, place: "username", problem: "there is no account nobody" },
    });
    show(<CrewAccounts rig={7} owner />);
    fireEvent.change(await screen.findByLabelText("Account to put on the crew"), { target: { value: "nobody" } });
    fireEvent.click(screen.getByRole("button", { name: "Put on the crew" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("there is no account nobody");
    await waitFor(() => expect(asked.some((each) => each.method === "POST")).toBe(true));
  });
});
