import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../app/testing";
import { RigView } from "./RigView";

const litres = { L: { unit: "L", factor: 1, offset: 0 } };

const aRig = (part: Partial<Schemas["RigOut"]> = {}): Schemas["RigOut"] => ({
  id: 7,
  role: "owner",
  doc: {
    name: "Heron",
    timezone: "UTC",
    units: "metric",
    crew: { adults: 2, children: 0, pets: 1 },
    stores: [
      { id: "fresh", kind: "fresh", name: "Fresh water", capacity: 100 },
      { id: "diesel", kind: "fuel", name: "Diesel", capacity: 80 },
    ],
    solar: [],
    sources: [],
    loads: [],
  },
  assumed: ["stores.fresh.capacity"],
  checks: [
    { place: "weight", words: "Full tanks weigh about 170 kg.", warns: false },
    { place: "stores.fresh", words: "100 L is 8 days for two.", warns: false },
    { place: "inverter", words: "The inverter's cable is not known.", warns: true },
  ],
  units: litres,
  ...part,
});

const opened = async (rig = aRig(), more: Record<string, unknown> = {}) => {
  const asked = answering({
    "GET /rigs/7": rig,
    "GET /gauges": [{ store: "fresh", readings: 20, words: ["Good to about 4 % of capacity."], marks: [] }],
    "GET /crew": [{ username: "mira", role: "owner" }],
    "POST /checks": [{ place: "weight", words: "Full tanks weigh about 190 kg.", warns: false }],
    "PUT /rigs/7": {},
    ...more,
  });
  show(<RigView />);
  await screen.findByRole("heading", { level: 1 });
  const kept = () => asked.find((each) => each.method === "PUT")?.body as Schemas["RigDoc"] | undefined;
  return { asked, kept };
};

const type = (label: string, value: string, within_: HTMLElement = document.body) => {
  const field = within(within_).getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};
const part = (title: string) => screen.getByRole("region", { name: title });
const touch = (name: string, where: HTMLElement = document.body) =>
  fireEvent.click(within(where).getByRole("button", { name }));

describe("what is aboard", () => {
  it("says beside each thing what follows from it, and what its gauge is worth", async () => {
    await opened();
    expect(part("Stores and their lines")).toHaveTextContent("Full tanks weigh about 170 kg.");
    expect(screen.getByRole("group", { name: "Fresh water" })).toHaveTextContent("100 L is 8 days for two.");
    expect(await screen.findByText("Gauge: Good to about 4 % of capacity.")).toBeVisible();
    expect(part("Inverter")).toHaveTextContent("The inverter's cable is not known.");
  });

  it("tries a change out before it is kept, and keeps the whole of it", async () => {
    const { asked, kept } = await opened();
    type("Adults", "3");
    expect(screen.getByRole("region", { name: "Changes not kept yet" })).toBeVisible();
    expect(await screen.findByText("Full tanks weigh about 190 kg.")).toBeVisible();
    expect(asked.find((each) => each.path.endsWith("/checks"))?.body).toMatchObject({ crew: { adults: 3, pets: 1 } });
    expect(kept()).toBeUndefined();
    touch("Keep the changes");
    await waitFor(() => expect(kept()).toMatchObject({ name: "Heron", crew: { adults: 3, children: 0, pets: 1 } }));
    await waitFor(() => expect(screen.queryByRole("region", { name: "Changes not kept yet" })).toBeNull());
  });

  it("takes a change back whole", async () => {
    const { kept } = await opened();
    type("Name of the rig", "Grebe");
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("Grebe");
    touch("Discard");
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("Heron");
    expect(kept()).toBeUndefined();
  });

  it("keeps the draft where it is refused, and says which figure", async () => {
    await opened(aRig(), { "PUT /rigs/7": { status: 422, place: "crew.adults", problem: "must be at least 1" } });
    type("Adults", "0");
    touch("Keep the changes");
    expect(await screen.findByRole("alert")).toHaveTextContent("crew.adults: must be at least 1");
    expect(screen.getByLabelText("Adults")).toHaveValue("0");
  });

  it("adds a store of a kind under an id that is free, and removes one", async () => {
    const { kept } = await opened();
    const stores = part("Stores and their lines");
    touch("Add a store", stores);
    fireEvent.change(screen.getByLabelText("Kind of the new store"), { target: { value: "battery" } });
    touch("Add a store", stores);
    fireEvent.click(within(screen.getByRole("group", { name: "Diesel" })).getByRole("button", { name: /^Remove/ }));
    touch("Keep the changes");
    await waitFor(() => expect(kept()?.stores.map((store) => store.id)).toEqual(["fresh", "fresh-2", "battery"]));
  });

  it("adds what charges and what draws", async () => {
    const { kept } = await opened();
    for (const title of ["Solar arrays", "Other ways to charge", "Loads"]) touch("Add", part(title));
    type("Controller, A", "30", part("Solar arrays"));
    fireEvent.change(within(part("Other ways to charge")).getByLabelText("Kind"), { target: { value: "generator" } });
    fireEvent.change(within(part("Other ways to charge")).getByLabelText("Burns from"), {
      target: { value: "diesel" },
    });
    type("Name", "Fridge", part("Loads"));
    fireEvent.change(within(part("Loads")).getByLabelText("When"), { target: { value: "night" } });
    touch("Keep the changes");
    await waitFor(() => expect(kept()).toBeDefined());
    expect(kept()?.solar).toEqual([{ id: "array", watts: 100, tilt_deg: 0, azimuth_deg: 180, controller_amps: 30 }]);
    expect(kept()?.sources).toMatchObject([{ kind: "generator", amps: 20, fuel_store: "diesel" }]);
    expect(kept()?.loads).toMatchObject([{ name: "Fridge", when: "night", via: "dc" }]);
  });

  it("has an inverter or none, and takes its efficiency in per cent", async () => {
    const { kept } = await opened();
    touch("Add an inverter");
    type("Efficiency, %", "88");
    type("Surge, W", "2 400");
    fireEvent.change(screen.getByLabelText("It is on"), { target: { value: "always" } });
    touch("Keep the changes");
    await waitFor(() =>
      expect(kept()?.inverter).toEqual({
        watts: 1000,
        idle_watts: 10,
        efficiency: 0.88,
        surge_watts: 2400,
        always_on: true,
      }),
    );
  });

  it("is only looked at by the crew", async () => {
    await opened(aRig({ role: "crew" }));
    expect(screen.getByText(/You are crew on this rig/)).toBeVisible();
    expect(screen.getByLabelText("Adults")).toBeDisabled();
    expect(screen.getByRole("button", { name: "Add a store" })).toBeDisabled();
    expect(screen.queryByLabelText("Account to put on the crew")).toBeNull();
  });
});

describe("accounts on the rig", () => {
  it("are put on by name and taken off again, the owner never", async () => {
    const { asked } = await opened(aRig(), {
      "GET /crew": [
        { username: "mira", role: "owner" },
        { username: "joss", role: "crew" },
      ],
      "POST /crew": {},
      "DELETE /crew/joss": {},
    });
    await screen.findByText("joss, crew");
    expect(screen.queryByRole("button", { name: "Take mira off" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Take joss off" }));
    fireEvent.change(screen.getByLabelText("Account to put on the crew"), { target: { value: "ada" } });
    touch("Put on the crew");
    await waitFor(() => expect(asked.find((each) => each.method === "POST")?.body).toEqual({ username: "ada" }));
    expect(asked.some((each) => each.method === "DELETE" && each.path.endsWith("/crew/joss"))).toBe(true);
  });

  it("say why one could not be put on", async () => {
    await opened(aRig(), { "POST /crew": { status: 422, place: "username", problem: "There is no account ada." } });
    fireEvent.change(screen.getByLabelText("Account to put on the crew"), { target: { value: "ada" } });
    touch("Put on the crew");
    expect(await screen.findByText("username: There is no account ada.")).toBeVisible();
  });
});
