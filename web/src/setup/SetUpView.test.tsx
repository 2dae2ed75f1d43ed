import { fireEvent, screen, waitFor } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { answering, show } from "../testing/testing";
import { SetUpView } from "./SetUpView";

const type = (label: string, value: string) => {
  const field = screen.getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};

const opened = (answer: unknown = { id: 12 }) => {
  const asked = answering({ "POST /set-up": answer });
  show(<SetUpView />, "/set-up");
  return asked;
};

beforeEach(() => localStorage.clear());

describe("setting a rig up", () => {
  it("asks ten questions, numbered", () => {
    opened();
    const legends = [...document.querySelectorAll("legend")];
    const questions = legends.map((each) => each.textContent ?? "");
    expect(questions).toHaveLength(10);
    expect(questions.map((each) => Number(each.split(".")[0]))).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
    const seen = () =>
      [...document.querySelectorAll<HTMLElement>("fieldset:not([hidden])")].map((each) => each.dataset.question);
    expect(seen()).toEqual(["1"]);
  });

  it("goes on one question at a time, and back to what is wrong", async () => {
    opened();
    const seen = () => document.querySelector<HTMLElement>("fieldset:not([hidden])")?.dataset.question;
    type("Name", "Heron");
    fireEvent.click(screen.getByRole("button", { name: "Next" }));
    await waitFor(() => expect(seen()).toBe("2"));
    fireEvent.click(screen.getByRole("button", { name: "Back" }));
    expect(seen()).toBe("1");
    type("Fresh tanks, L", "lots");
    fireEvent.click(screen.getByRole("button", { name: /make the rig/i }));
    await waitFor(() => expect(seen()).toBe("6"));
  });

  it("asks of a toilet what it has, and says nothing of what is usual", async () => {
    const asked = opened();
    type("Name", "Heron");
    type("Cassette, L", "17");
    fireEvent.change(screen.getByLabelText("Toilet"), { target: { value: "composting" } });
    expect(screen.queryByLabelText("Cassette, L")).toBeNull();
    type("Urine bottle, L", "6");
    fireEvent.click(screen.getByRole("button", { name: /make the rig/i }));
    expect(await screen.findByTestId("elsewhere")).toHaveTextContent("/round");
    const body = asked.find((each) => each.method === "POST")?.body;
    expect(body).toMatchObject({ urine: 6, solids: 0, fridge: "bank", body: "van" });
  });

  it("sends what was answered and the usual for the rest, then begins the round with the new rig", async () => {
    const asked = opened();
    type("Name", "Heron");
    type("Capacity of the bank, Ah", "280");
    type("Grey tank, L", "0");
    fireEvent.change(screen.getByLabelText("Toilet"), { target: { value: "composting" } });
    fireEvent.change(screen.getByLabelText("Bank volts"), { target: { value: "24" } });
    fireEvent.click(screen.getByRole("button", { name: /make the rig/i }));
    expect(await screen.findByTestId("elsewhere")).toHaveTextContent("/round");
    expect(asked.find((each) => each.method === "POST")?.body).toMatchObject({
      name: "Heron",
      battery_ah: 280,
      battery_v: 24,
      grey: 0,
      toilet: "composting",
      chemistry: "lfp",
      adults: 2,
    });
    expect(localStorage.getItem("lodeline-rig")).toBe("12");
  });

  it("asks in gallons and pounds where one thinks in these", () => {
    opened();
    fireEvent.change(screen.getByLabelText("Units"), { target: { value: "us" } });
    expect(screen.getByLabelText("Fresh tanks, gal")).toBeInTheDocument();
    expect(screen.getByLabelText("Bottle in use, full, lb")).toHaveValue("20");
  });

  it("converts what was written when the units change, there and back, and gives the usual for the rest", () => {
    opened();
    type("Fresh tanks, L", "90");
    fireEvent.change(screen.getByLabelText("Units"), { target: { value: "us" } });
    expect(screen.getByLabelText("Fresh tanks, gal")).toHaveValue("23.8");
    expect(screen.getByLabelText("Grey tank, gal")).toHaveValue("21");
    fireEvent.change(screen.getByLabelText("Units"), { target: { value: "metric" } });
    expect(screen.getByLabelText("Grey tank, L")).toHaveValue("80");
    expect(screen.getByLabelText("Fresh tanks, L")).toHaveValue("90");
  });

  it("has the timezone of this device until another is written", () => {
    vi.spyOn(Intl.DateTimeFormat.prototype, "resolvedOptions").mockReturnValue({
      timeZone: "America/Denver",
    } as Intl.ResolvedDateTimeFormatOptions);
    opened();
    expect(screen.getByLabelText("Timezone")).toHaveValue("America/Denver");
    vi.restoreAllMocks();
  });

  it.each([
    ["4oo", '"4oo" is not a number; write one such as 12.5, or 12.5 W.'],
    ["", "Write a number here; it was left empty."],
  ])("does not go off with the number of before where it says %j", async (typed, says) => {
    const asked = opened();
    type("Name", "Heron");
    type("All panels together, W", typed);
    fireEvent.click(screen.getByRole("button", { name: /make the rig/i }));
    await waitFor(() => expect(screen.getByLabelText("All panels together, W")).toHaveAccessibleDescription(says));
    type("All panels together, W", "410");
    fireEvent.click(screen.getByRole("button", { name: /make the rig/i }));
    expect(await screen.findByTestId("elsewhere")).toHaveTextContent("/round");
    expect(asked.filter((each) => each.method === "POST").map((each) => each.body)).toEqual([
      expect.objectContaining({ solar_watts: 410 }),
    ]);
  });

  it("keeps every answer where one is refused, and says which", async () => {
    opened({ status: 422, place: "timezone", label: "Timezone", problem: "is not a known timezone" });
    type("Name", "Heron");
    fireEvent.click(screen.getByRole("button", { name: /make the rig/i }));
    await waitFor(() =>
      expect(screen.getByLabelText("Timezone")).toHaveAccessibleDescription("is not a known timezone"),
    );
    expect(screen.getByLabelText("Name")).toHaveValue("Heron");
  });
});
