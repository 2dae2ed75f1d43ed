import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { noFacts } from "../testing/day";
import { answering, show } from "../testing/testing";
import { RoundView } from "./RoundView";

const at = (time: string) => ({ at: `2026-11-25T${time}:00+01:00`, date: "2026-11-25", time });

const aRound = (): Schemas["RoundOut"] => ({
  rig: "Test rig",
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
    { id: 31, at: at("08:05"), kind: "reading", store: "fresh", words: "Fresh water: mark 2/3" },
    { id: 9, at: at("10:30"), kind: "event", store: "grey", words: "Grey tank emptied" },
  ],
  day: { ...noFacts("2026-11-25"), sky: "wet", temp_min: 3, temp_max: 9 },
  water_unit: "L",
  has_meter: true,
});

const opened = async (round: object = aRound(), more: Record<string, unknown> = {}) => {
  const asked = answering({ "GET /round": round, "PUT /days/2026-11-25": {}, ...more });
  show(<RoundView />);
  await screen.findByRole("heading", { level: 1 });
  const kept = async (n: number) => {
    await waitFor(() => expect(asked.filter((each) => each.method !== "GET")).toHaveLength(n));
    return asked.filter((each) => each.method !== "GET");
  };
  return { asked, kept };
};

beforeEach(() => localStorage.clear());

describe("the round", () => {
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
    expect((await kept(2)).map((each) => each.body)).toEqual([{ sky: "clear" }, { sky: "wet" }]);
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
    expect((await kept(3)).map((each) => each.body)).toEqual([{ sky: "clear" }, { sky: "mixed" }, { sky: "overcast" }]);
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
      expect((await kept(index + 2)).at(-1)?.body).toEqual(body);
    }
  });

  it("says what of the day was refused", async () => {
    await opened(aRound(), {
      "PUT /days/2026-11-25": { status: 422, place: "crew_aboard", problem: "must be at most 40" },
    });
    const field = screen.getByLabelText("Sleeping aboard (usually 2)");
    fireEvent.change(field, { target: { value: "400" } });
    fireEvent.blur(field);
    await waitFor(() => expect(field).toHaveAccessibleDescription("must be at most 40"));
    expect(field).toHaveValue("400");
  });

  it("lists what is logged with its time, and undoes each by its own kind", async () => {
    const { kept } = await opened(aRound(), { "DELETE /readings/31": {}, "DELETE /events/9": {} });
    expect(screen.getByText("08:05").parentElement).toHaveTextContent("Fresh water: mark 2/3");
    fireEvent.click(screen.getByRole("button", { name: "Undo: Fresh water: mark 2/3" }));
    await kept(1);
    fireEvent.click(screen.getByRole("button", { name: "Undo: Grey tank emptied" }));
    expect((await kept(2)).map((each) => each.path)).toEqual(["/api/rigs/7/readings/31", "/api/rigs/7/events/9"]);
  });

  it("says so where nothing is logged yet", async () => {
    await opened({ ...aRound(), entries: [] });
    expect(screen.getByText("Nothing is logged today yet.")).toBeVisible();
  });

  it("lets what was done wait on this device while there is no signal, with the time it was done", async () => {
    await opened();
    const wire = globalThis.fetch;
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    expect(await screen.findByText("Waits for a signal: Emptied Grey tank")).toBeVisible();
    const waits = JSON.parse(localStorage.getItem("lodeline-outbox") ?? "[]") as { entry: { at: string } }[];
    expect(waits).toHaveLength(1);
    expect(Number.isNaN(Date.parse(waits[0]?.entry.at ?? ""))).toBe(false);
    globalThis.fetch = wire;
  });

  it("sends what waits before anything new, once there is a signal", async () => {
    const entry = { reading: { store: "fresh", text: "1/3" }, at: "2026-11-25T07:00:00Z" };
    const waiting = { rig: 7, entry };
    localStorage.setItem("lodeline-outbox", JSON.stringify([waiting]));
    const { kept } = await opened(aRound(), { "POST /entries": { entries: [] } });
    await kept(1);
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    const sent = await kept(2);
    expect(sent.map((each) => (each.body as { entries: object[] }).entries)).toEqual([
      [entry],
      [{ event: { type: "dump", store: "grey", full: false } }],
    ]);
    expect(localStorage.getItem("lodeline-outbox")).toBe("[]");
  });
});
