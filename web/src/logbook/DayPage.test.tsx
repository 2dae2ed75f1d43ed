import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show, writesOf } from "../testing/testing";
import { DayPage } from "./DayPage";

const at = (time: string) => ({ at: `2026-11-24T${time}:00+01:00`, date: "2026-11-24", time });

const aDay = (): Schemas["DayOut"] => ({
  date: "2026-11-24",
  logged: true,
  line: "Gravel pit · 2 to 9 °C · plugged in · 1 reading · 1 event · 1 corrected",
  note: "doesn't add up",
  place: "Gravel pit",
  facts: {
    date: "2026-11-24",
    sky: "wet",
    temp_min: 2,
    temp_max: 9,
    status: "hookup",
    crew_aboard: 2,
    note: "Rain all day.",
    solar_wh: 140,
    load_wh: null,
    water: null,
    place: null,
    panels_covered: null,
  },
  earlier: 0,
  entries: [
    { revision: 2, id: "entry-31", at: at("20:06"), kind: "reading", store: "fresh", words: "Fresh water: mark 2/3" },
    { revision: 2, id: "entry-9", at: at("10:30"), kind: "event", store: "grey", words: "Grey tank emptied" },
  ],
  sums: [
    {
      store: "fresh",
      name: "Fresh water",
      used: "28 L",
      moved: null,
      corrected: "−61 L",
      end: "48 L",
      note: "doesn't add up",
    },
    { store: "grey", name: "Grey tank", used: "24 L", moved: "−55 L", corrected: null, end: "9 L", note: null },
  ],
  doubts: ["Fresh water rose by about 60 L with nothing logged for it."],
});

const act = (label: string, type: string, store: string | null, asks: string, unit: string | null) => ({
  label,
  type,
  store,
  asks,
  unit,
  question: null,
  needs_amount: false,
});

const round = {
  stores: [{ id: "fresh", name: "Fresh water", example: "2/3" }],
  acts: [
    act("Filled Fresh water", "fill", "fresh", "amount", "L"),
    act("Drove", "drive", null, "hours", "h"),
    act("Emptied Grey tank", "dump", "grey", "nothing", null),
  ],
};

const opened = (day: Schemas["DayOut"] = aDay(), more: Record<string, unknown> = {}, startOpen = true) => {
  const asked = answering({ "GET /round": round, ...more });
  show(<DayPage rig={7} day={day} saw={3} writes units={{ temp: "°C", water: "L" }} startOpen={startOpen} />);
  return asked;
};

describe("a day of the ledger", () => {
  it("is one line while closed, with what matters of the day", () => {
    opened(aDay(), {}, false);
    const head = screen.getByRole("button", { name: /^Tue 24 Nov/ });
    expect(head).toHaveTextContent("wetGravel pit · 2 to 9 °C · plugged in · 1 reading · 1 event · 1 corrected");
    expect(head).toHaveTextContent("doesn't add up");
    expect(screen.queryByRole("table")).toBeNull();
    fireEvent.click(head);
    expect(screen.getByRole("table")).toBeVisible();
  });

  it("sets out what was used, moved and corrected of each store, and which sum doesn't add up", () => {
    opened();
    const [, fresh, grey] = screen.getAllByRole("row");
    expect(fresh).toHaveTextContent("Fresh water28 L–−61 L, doesn't add up48 L");
    expect(grey).toHaveTextContent("Grey tank24 L−55 L–9 L");
    expect(screen.getByText("Fresh water rose by about 60 L with nothing logged for it.")).toBeVisible();
  });

  it("keeps one fact of the day at a time, in order", async () => {
    const asked = opened();
    fireEvent.click(screen.getByRole("button", { name: "wet" }));
    const yielded = screen.getByLabelText("Solar yield, Wh");
    fireEvent.change(yielded, { target: { value: "1 250" } });
    fireEvent.blur(yielded);
    const meter = screen.getByLabelText("Water drawn, by meter, L");
    fireEvent.change(meter, { target: { value: "27,5" } });
    fireEvent.blur(meter);
    await waitFor(() =>
      expect(writesOf(asked)).toEqual(
        [{ sky: null }, { solar_wh: 1250 }, { water: 27.5 }].map((facts) => ({
          saw: 3,
          day: { on: "2026-11-24", facts },
        })),
      ),
    );
  });

  it("stands what was refused at its field", async () => {
    const problem = { state: "refused", place: "temp_min_c", label: "Coldest", problem: "is above the warmest" };
    opened(aDay(), { "POST /writes": problem });
    const coldest = screen.getByLabelText("Coldest, °C");
    fireEvent.change(coldest, { target: { value: "19" } });
    fireEvent.blur(coldest);
    await waitFor(() => expect(coldest).toHaveAccessibleDescription("is above the warmest"));
  });

  it("tells who changed what, and when, as a sentence", async () => {
    const change = {
      at: { at: "2026-11-25T08:15:00+01:00", date: "2026-11-25", time: "08:15" },
      words: "mira corrected Fresh water: mark 1/3 to Fresh water: mark 2/3",
    };
    opened(aDay(), { "GET /history": [change] });
    fireEvent.click(screen.getByRole("button", { name: "History" }));
    const item = await screen.findByText(/mira corrected/);
    expect(item).toHaveTextContent("Wed 25 Nov, 08:15 mira corrected Fresh water: mark 1/3 to Fresh water: mark 2/3.");
  });

  it("says so where nothing was changed", async () => {
    opened(aDay(), { "GET /history": [] });
    fireEvent.click(screen.getByRole("button", { name: "History" }));
    expect(await screen.findByText("Nothing was changed since this day came here.")).toBeVisible();
  });
});

describe("adding to an earlier day", () => {
  const adding = async (what: string) => {
    const asked = opened();
    const choice = screen.getByLabelText("What to add");
    await within(choice).findByRole("option", { name: what });
    fireEvent.change(choice, { target: { value: what === "Reading of Fresh water" ? "fresh" : what } });
    const sent = async (n = 1) => {
      await waitFor(() => expect(writesOf(asked)).toHaveLength(n));
      await waitFor(() => expect(screen.getByRole("button", { name: "Add" })).toBeEnabled());
      return writesOf(asked)[n - 1]?.add;
    };
    return { asked, sent };
  };
  const add = () => fireEvent.click(screen.getByRole("button", { name: "Add" }));

  it("logs a reading on that date at its own local time", async () => {
    const { sent } = await adding("Reading of Fresh water");
    fireEvent.change(screen.getByLabelText("Reading"), { target: { value: "2/3" } });
    fireEvent.change(screen.getByLabelText("Time"), { target: { value: "07:45" } });
    add();
    expect(await sent()).toEqual({ reading: { store: "fresh", text: "2/3" }, on: "2026-11-24", time: "07:45" });
  });

  it("logs a forgotten fill to the brim where no amount is given, else a measured one", async () => {
    const { sent } = await adding("Filled Fresh water");
    add();
    expect((await sent())?.event).toEqual({ type: "fill", store: "fresh", full: true });
    fireEvent.change(screen.getByLabelText("Amount, L"), { target: { value: "40,5" } });
    add();
    expect((await sent(2))?.event).toEqual({ type: "fill", store: "fresh", full: false, amount: 40.5 });
  });

  it("asks for hours where an act needs hours, and for nothing where it needs nothing", async () => {
    const { sent } = await adding("Drove");
    fireEvent.change(screen.getByLabelText("Hours, h"), { target: { value: "1.5" } });
    add();
    expect(await sent()).toEqual({
      event: { type: "drive", store: null, full: false, hours: 1.5 },
      on: "2026-11-24",
      time: "12:00",
    });
    fireEvent.change(screen.getByLabelText("What to add"), { target: { value: "Emptied Grey tank" } });
    expect(screen.queryByLabelText(/^Hours/)).toBeNull();
  });

  it("sends nothing while something is missing, no number, or may be two, and says why at its field", async () => {
    const { asked } = await adding("Filled Fresh water");
    const amount = screen.getByLabelText("Amount, L");
    fireEvent.change(amount, { target: { value: "1,250" } });
    add();
    await waitFor(() => expect(amount).toHaveAccessibleDescription(/"1,250" may be 1250 or 1.25/));
    fireEvent.change(screen.getByLabelText("What to add"), { target: { value: "fresh" } });
    add();
    await waitFor(() => expect(screen.getByLabelText("Reading")).toHaveAccessibleDescription("Write something here."));
    expect(asked.filter((each) => each.method === "POST")).toHaveLength(0);
  });
});
