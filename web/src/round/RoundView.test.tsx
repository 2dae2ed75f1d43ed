import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { outbox } from "../outbox/outbox";
import { noFacts } from "../testing/day";
import { aStore } from "../testing/round";
import { answering, READER, show, writesOf } from "../testing/testing";
import { aRation } from "../testing/water";
import { RoundView } from "./RoundView";

const at = (time: string) => ({ at: `2026-11-25T${time}:00+01:00`, date: "2026-11-25", time });

const aRound = (): Schemas["RoundOut"] => ({
  rig: "Test rig",
  revision: 3,
  units: "metric",
  timezone: "Europe/Berlin",
  now: { at: "2026-11-25T20:40:00+01:00", date: "2026-11-25", time: "20:40" },
  temp_unit: "°C",
  crew: 2,
  stores: [],
  acts: [
    {
      label: "Emptied Grey tank",
      type: "dump",
      store: "grey",
      asks: "nothing",
      unit: null,
      question: null,
      needs_amount: false,
    },
  ],
  entries: [
    { revision: 2, id: "entry-31", at: at("08:05"), kind: "reading", store: "fresh", words: "Fresh water: mark 2/3" },
    { revision: 2, id: "entry-9", at: at("10:30"), kind: "event", store: "grey", words: "Grey tank emptied" },
  ],
  day: { ...noFacts("2026-11-25"), sky: "wet", temp_min: 3, temp_max: 9 },
  water_unit: "L",
  has_meter: true,
  where: {
    words: "No place is logged: Berlin, 52.5° N, 13.4° E, stands in for it.",

    now: null,
    earlier: [{ name: "Gravel pit", lat: 52.1, lon: 13.9 }],
  },
  agreed: [],
  asks_covered: false,
});

const opened = async (round: object = aRound(), more: Record<string, unknown> = {}) => {
  const asked = answering({ "GET /round": round, ...more });
  show(<RoundView />);
  await screen.findByRole("heading", { level: 1 });
  const kept = async (n: number) => {
    await waitFor(() => expect(writesOf(asked)).toHaveLength(n));
    return writesOf(asked);
  };
  return { asked, kept };
};

beforeEach(() => {
  vi.useFakeTimers({ toFake: ["Date"], now: new Date("2026-11-25T20:41:00+01:00") });
});
afterEach(() => void vi.useRealTimers());

const factsOf = (writes: ReturnType<typeof writesOf>) => writes.map((each) => each.day?.facts);

describe("the round", () => {
  it("says what is left of a ration, the floor that it lies under, and that a tank was drained", async () => {
    const ration = aRation({ kept: true, floor: "That is 2 L a person." });
    await opened({ ...aRound(), ration, drained: "Drained Wed 25 Nov." });
    const said = document.querySelector("[data-part=ration]");
    expect(said).toHaveTextContent("Left of today's ration: 6 L of 14 L.");
    expect(said).toHaveTextContent("That is 2 L a person.");
    expect(said).toHaveTextContent("Navy shower, about 7 L: one each on Thursday");
    expect(screen.getByText("Drained Wed 25 Nov.")).toBeVisible();
  });

  it("is named by its day and asks for gauges, deeds, sky and day, then shows what is logged", async () => {
    await opened();
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("The round, Wednesday 25 November");
    expect(screen.getAllByRole("region").map((each) => each.getAttribute("aria-label"))).toEqual([
      "What the gauges show",
      "What was done",
      "Sky and day",
      "Logged today",
    ]);
  });

  it("keeps the sky at one touch and changes it at the next", async () => {
    const { kept } = await opened();
    const sky = within(screen.getByRole("group", { name: "Sky" }));
    expect(sky.getByRole("button", { name: "wet" })).toHaveAttribute("aria-pressed", "true");
    fireEvent.click(sky.getByRole("button", { name: "clear" }));
    await kept(1);
    fireEvent.click(sky.getByRole("button", { name: "wet" }));
    expect(factsOf(await kept(2))).toEqual([{ sky: "clear" }, { sky: "wet" }]);
  });

  it("sends what is touched in quick turn in that turn, one answered before the next", async () => {
    let open = 0;
    let most = 0;
    const { kept } = await opened();
    const wire = globalThis.fetch as (request: Request) => Promise<Response>;
    globalThis.fetch = (async (request: Request) => {
      if (request.method === "GET") return wire(request);
      most = Math.max(most, ++open);
      await new Promise((resolve) => setTimeout(resolve, 10));
      open -= 1;
      return wire(request);
    }) as typeof fetch;
    for (const sky of ["clear", "mixed", "overcast"]) fireEvent.click(screen.getByRole("button", { name: sky }));
    expect(factsOf(await kept(3))).toEqual([{ sky: "clear" }, { sky: "mixed" }, { sky: "overcast" }]);
    expect(most).toBe(1);
  });

  it("keeps where the rig was, the cold, who slept aboard, the yield and a note", async () => {
    const { kept } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "plugged in" }));
    await kept(1);
    const typed: [string, string, object][] = [
      ["Coldest, °C", "-3,5", { temp_min: -3.5 }],
      ["Warmest, °C", "4", { temp_max: 4 }],
      ["Sleeping aboard (usually 2)", "3", { crew_aboard: 3 }],
      ["Solar yield so far, Wh", "410", { solar_wh: 410 }],
      ["Water drawn, by meter, L", "27.5", { water: 27.5 }],
      ["Note", "Moved behind the hedge.", { note: "Moved behind the hedge." }],
    ];
    for (const [index, [label, text, body]] of typed.entries()) {
      const field = screen.getByLabelText(label);
      fireEvent.change(field, { target: { value: text } });
      fireEvent.blur(field);
      expect(factsOf(await kept(index + 2)).at(-1)).toEqual(body);
    }
  });

  it("says what of the day was refused", async () => {
    await opened(aRound(), {
      "POST /writes": { state: "refused", place: "crew_aboard", problem: "must be at most 40" },
    });
    const field = screen.getByLabelText("Sleeping aboard (usually 2)");
    fireEvent.change(field, { target: { value: "400" } });
    fireEvent.blur(field);
    await waitFor(() => expect(field).toHaveAccessibleDescription("must be at most 40"));
    expect(field).toHaveValue("400");
  });

  it("lists what is logged with its time, and undoes each by its own kind", async () => {
    const { kept } = await opened();
    expect(screen.getByText("08:05").parentElement).toHaveTextContent("Fresh water: mark 2/3");
    fireEvent.click(screen.getByRole("button", { name: "Undo: Fresh water: mark 2/3" }));
    await kept(1);
    fireEvent.click(screen.getByRole("button", { name: "Undo: Grey tank emptied" }));
    expect((await kept(2)).map((each) => each.remove)).toEqual([
      { kind: "reading", id: "entry-31" },
      { kind: "event", id: "entry-9" },
    ]);
  });

  it("says so where nothing is logged yet", async () => {
    await opened({ ...aRound(), entries: [] });
    expect(screen.getByText("Nothing is logged today yet.")).toBeVisible();
  });

  it("lets what was done wait on this device while there is no signal, and shows it in the day", async () => {
    await opened();
    const wire = globalThis.fetch;
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    expect(await screen.findByText(/^Kept on this device, waits for a signal: Emptied Grey tank/)).toBeVisible();
    expect(screen.getByText("Emptied Grey tank (waits for a signal)")).toBeVisible();
    expect(outbox.all()).toMatchObject([{ account: "mira", rig: 7, state: "waiting" }]);
    globalThis.fetch = wire;
  });

  it("takes back what waits, by its own id, for it may be under way", async () => {
    const { asked, kept } = await opened();
    const wire = globalThis.fetch;
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    fireEvent.click(await screen.findByRole("button", { name: "Undo: Emptied Grey tank (waits for a signal)" }));
    await waitFor(() => expect(screen.queryByText(/Emptied Grey tank \(waits/)).toBeNull());
    globalThis.fetch = wire;
    await outbox.flush();
    const [, removed] = await kept(2);
    const added = (asked.find((each) => each.path.endsWith("/writes"))?.body as { writes: { id: string }[] }).writes[0];
    expect(removed?.remove).toEqual({ kind: "event", id: added?.id });
  });

  it("puts what waits of the day over what was last fetched", async () => {
    await outbox.load();
    outbox.belongsTo(null);
    const day = { on: "2026-11-25", facts: { temp_min: -7 } };
    await outbox.add({ account: "mira", rig: 7, what: { day }, words: "Facts", saw: 3 });
    await opened(aRound(), { "POST /writes": { status: 503, place: "", problem: "starting" } });
    expect(screen.getByLabelText("Coldest, °C")).toHaveValue("-7");
  });

  it("goes on to a new evening without a signal, from the last fan", async () => {
    vi.setSystemTime(new Date("2026-11-26T21:00:00+01:00"));
    const store = aStore({ ahead: [{ at: "2026-11-26T00:00:00+01:00", expected: "20 to 40 L", usual: null }] });
    await opened({ ...aRound(), stores: [store] });
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("Thursday 26 November");
    expect(screen.getByText("Expected now: 20 to 40 L")).toBeVisible();
    expect(screen.getByText("Nothing is logged today yet.")).toBeVisible();
    expect(screen.getByRole("button", { name: "wet" })).toHaveAttribute("aria-pressed", "false");
  });

  it("asks which time is right where the clock of the device was off", async () => {
    const [first] = aRound().entries;
    const { kept } = await opened({ ...aRound(), entries: [{ ...first, device_at: at("03:05") }] });
    expect(screen.getByText(/The clock of the device said Wed 25 Nov, 03:05/)).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Wed 25 Nov, 03:05" }));
    expect((await kept(1))[0]?.correct?.to).toMatchObject({ on: "2026-11-25", time: "03:05" });
  });

  it("shows a reader everything and lets them change nothing", async () => {
    answering({ "GET /round": { ...aRound(), stores: [aStore({})] } });
    show(<RoundView />, "/", READER);
    await screen.findByRole("heading", { level: 1 });
    expect(screen.getByLabelText("Fresh water")).toHaveAttribute("readonly");
    expect(screen.queryByRole("button", { name: /^Undo/ })).toBeNull();
    expect(screen.queryByRole("region", { name: "What was done" })).toBeNull();
  });

  it("gives an act the time at which it was done, and the next one none", async () => {
    const { kept } = await opened();
    fireEvent.change(screen.getByLabelText("At what time"), { target: { value: "09:15" } });
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    const [write] = await kept(1);
    expect(write?.add).toMatchObject({ event: { type: "dump", store: "grey" }, time: "09:15" });
    await waitFor(() => expect(screen.getByLabelText("At what time")).toHaveValue(""));
  });

  it("says what stands in for a place, and asks for snow only when the server does", async () => {
    await opened();
    expect(screen.getByText(/Berlin, 52.5° N, 13.4° E, stands in/)).toBeInTheDocument();
    expect(screen.queryByRole("button", { name: "Snow covers the panels" })).toBeNull();
  });

  it("keeps that snow covers the panels at one touch", async () => {
    const { kept } = await opened({ ...aRound(), asks_covered: true });
    fireEvent.click(screen.getByRole("button", { name: "Snow covers the panels" }));
    const [write] = await kept(1);
    expect(write?.day?.facts).toEqual({ panels_covered: true });
  });
});
