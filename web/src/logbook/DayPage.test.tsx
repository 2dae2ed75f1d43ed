import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../app/testing";
import { DayPage } from "./DayPage";

const aDay = (): Schemas["DayOut"] => ({
  date: "2026-11-24",
  logged: true,
  place: "Gravel pit",
  sky: "wet",
  temps: "2 to 9 °C",
  temp_min: 2,
  temp_max: 9,
  status: "hookup",
  crew_aboard: 2,
  note: "Rain all day.",
  solar_wh: 140,
  load_wh: null,
  water: null,
  entries: [
    { id: 31, at: "2026-11-24T20:06:00+01:00", kind: "reading", store: "fresh", words: "Fresh water: mark 2/3" },
    { id: 9, at: "2026-11-24T10:30:00+01:00", kind: "event", store: "grey", words: "Grey tank emptied" },
  ],
  sums: [
    { store: "fresh", name: "Fresh water", used: "28 L", moved: null, off: "-61 L", end: "48 L", open: true },
    { store: "grey", name: "Grey tank", used: "24 L", moved: "-55 L", off: null, end: "9 L", open: false },
  ],
  doubts: ["Fresh water rose by about 60 L with no fill logged."],
  changes: 1,
});

const round = {
  now: "2026-11-25T20:40:00.123+01:00",
  stores: [{ id: "fresh", name: "Fresh water" }],
  acts: [
    { label: "Filled Fresh water", type: "fill", store: "fresh", needs: "amount", unit: "L" },
    { label: "Drove", type: "drive", store: null, needs: "hours", unit: "h" },
    { label: "Emptied Grey tank", type: "dump", store: "grey", needs: null, unit: null },
  ],
};

const opened = (day: Schemas["DayOut"] = aDay(), more: Record<string, unknown> = {}, startOpen = true) => {
  const asked = answering({ "GET /round": round, ...more });
  show(<DayPage rig={7} day={day} units={{ temp: "°C", water: "L" }} startOpen={startOpen} />);
  return asked;
};

describe("a day of the ledger", () => {
  it("is one line while closed, with what matters of the day", () => {
    opened(aDay(), {}, false);
    const head = screen.getByRole("button", { name: /^Tue 24 Nov/ });
    expect(head).toHaveTextContent("wetGravel pit · 2 to 9 °C · on a post · 1 readings, 1 events · 1 corrected");
    expect(head).toHaveTextContent("does not close");
    expect(screen.queryByRole("table")).toBeNull();
    fireEvent.click(head);
    expect(screen.getByRole("table")).toBeVisible();
  });

  it("says of a day without a log that its levels are carried on", () => {
    opened({ ...aDay(), logged: false, doubts: [], sums: [], entries: [] }, {}, false);
    expect(screen.getByText("not logged; the levels are carried on")).toBeVisible();
    expect(screen.queryByText("does not close")).toBeNull();
  });

  it("sets out what was used, moved and read of each store, and which sum does not close", () => {
    opened();
    const [, fresh, grey] = screen.getAllByRole("row");
    expect(fresh).toHaveTextContent("Fresh water28 L–-61 L, does not close48 L");
    expect(grey).toHaveTextContent("Grey tank24 L-55 L–9 L");
    expect(screen.getByText("Fresh water rose by about 60 L with no fill logged.")).toBeVisible();
  });

  it("keeps one fact of the day at a time", async () => {
    const asked = opened(aDay(), { "PUT /days/2026-11-24": {} });
    fireEvent.change(screen.getByLabelText("Sky"), { target: { value: "" } });
    await waitFor(() => expect(asked.filter((each) => each.method === "PUT")).toHaveLength(1));
    const yielded = screen.getByLabelText("Solar yield, Wh");
    fireEvent.change(yielded, { target: { value: "1 250" } });
    fireEvent.blur(yielded);
    const meter = screen.getByLabelText("Water drawn, by meter, L");
    fireEvent.change(meter, { target: { value: "27,5" } });
    fireEvent.blur(meter);
    await waitFor(() =>
      expect(asked.filter((each) => each.method === "PUT").map((each) => each.body)).toEqual([
        { sky: null },
        { solar_wh: 1250 },
        { water: 27.5 },
      ]),
    );
  });

  it("shows under the facts which of them was refused", async () => {
    opened(aDay(), { "PUT /days/2026-11-24": { status: 422, place: "temp_min", problem: "is above the warmest" } });
    const coldest = screen.getByLabelText("Coldest, °C");
    fireEvent.change(coldest, { target: { value: "19" } });
    fireEvent.blur(coldest);
    expect(await screen.findByRole("alert")).toHaveTextContent("temp_min: is above the warmest");
  });

  it("tells who changed what, and what stood before", async () => {
    const change = {
      at: "2026-11-25T08:15:00+01:00",
      by: null,
      action: "corrected",
      kind: "reading",
      old: { text: "1/3" },
      new: { text: "2/3" },
    };
    opened(aDay(), { "GET /history": [change] });
    fireEvent.click(screen.getByRole("button", { name: "History" }));
    const told = await screen.findByText(/an account since removed corrected a reading/);
    expect(told).toHaveTextContent("Wed 25 Nov, 08:15");
    expect(told).toHaveTextContent("Before: text 1/3");
    expect(told).toHaveTextContent("After: text 2/3");
  });

  it("says so where nothing was changed", async () => {
    opened(aDay(), { "GET /history": [] });
    fireEvent.click(screen.getByRole("button", { name: "History" }));
    expect(await screen.findByText("Nothing was changed since this day came here.")).toBeVisible();
  });
});

describe("adding to an earlier day", () => {
  const adding = async (what: string) => {
    const asked = opened(aDay(), { "POST /readings": {}, "POST /events": {} });
    const choice = screen.getByLabelText("What to add");
    await within(choice).findByRole("option", { name: what });
    fireEvent.change(choice, { target: { value: what === "Reading of Fresh water" ? "fresh" : what } });
    return {
      asked,
      sent: async () => (await waitFor(() => asked.find((each) => each.method === "POST") ?? fail()))?.body,
    };
  };
  const fail = (): never => {
    throw new Error("nothing was sent yet");
  };

  it("logs a reading at its own time, in the rig's offset", async () => {
    const { sent } = await adding("Reading of Fresh water");
    expect(screen.getByRole("button", { name: "Add" })).toBeDisabled();
    fireEvent.change(screen.getByLabelText("Reading"), { target: { value: "2/3" } });
    fireEvent.change(screen.getByLabelText("Time"), { target: { value: "07:45" } });
    fireEvent.click(screen.getByRole("button", { name: "Add" }));
    expect(await sent()).toEqual({ store: "fresh", text: "2/3", at: "2026-11-24T07:45:00+01:00" });
  });

  it("logs a forgotten fill to the brim where no amount is given, else a measured one", async () => {
    const { asked, sent } = await adding("Filled Fresh water");
    fireEvent.click(screen.getByRole("button", { name: "Add" }));
    expect(await sent()).toMatchObject({ type: "fill", store: "fresh", full: true, amount: null });
    fireEvent.change(screen.getByLabelText("Amount, L"), { target: { value: "40,5" } });
    fireEvent.click(screen.getByRole("button", { name: "Add" }));
    await waitFor(() => expect(asked.filter((each) => each.method === "POST")).toHaveLength(2));
    expect(asked.filter((each) => each.method === "POST")[1]?.body).toMatchObject({ full: false, amount: 40.5 });
  });

  it("asks for hours where an act needs hours, and for nothing where it needs nothing", async () => {
    const { sent } = await adding("Drove");
    fireEvent.change(screen.getByLabelText("Amount, h"), { target: { value: "1.5" } });
    fireEvent.click(screen.getByRole("button", { name: "Add" }));
    expect(await sent()).toEqual({
      type: "drive",
      store: null,
      full: false,
      hours: 1.5,
      at: "2026-11-24T12:00:00+01:00",
    });
    fireEvent.change(screen.getByLabelText("What to add"), { target: { value: "Emptied Grey tank" } });
    expect(screen.queryByLabelText(/^Amount/)).toBeNull();
  });

  it("sends nothing while an amount is no number or may be two, and says why", async () => {
    const { asked } = await adding("Filled Fresh water");
    const amount = screen.getByLabelText("Amount, L");
    fireEvent.change(amount, { target: { value: "1,250" } });
    expect(screen.getByRole("alert")).toHaveTextContent('"1,250" may be 1250 or 1.25');
    fireEvent.change(amount, { target: { value: "half" } });
    expect(screen.getByRole("alert")).toHaveTextContent('"half" is not a number');
    expect(screen.getByRole("button", { name: "Add" })).toBeDisabled();
    expect(asked.filter((each) => each.method === "POST")).toHaveLength(0);
  });
});
