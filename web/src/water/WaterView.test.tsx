import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { aRig } from "../testing/rig";
import { answering, asWideAs, ME, READER, show, writesOf } from "../testing/testing";
import { aRation, aWater } from "../testing/water";
import { WaterView } from "./WaterView";

beforeEach(() => asWideAs(600));
afterEach(() => vi.restoreAllMocks());

const JUG = { id: "jug-1", name: "Jug 1", litres: 10, where: "boot", full: 0.5 };
const RIG = aRig({ jugs: [JUG], water: { heater_l: 10, disinfect_days: 120 } });

const opened = async (water = aWater(), answers: Record<string, unknown> = {}, me = ME) => {
  const wire = answering({
    "GET /water": water,
    "POST /water/ration": aRation(),
    "POST /water/ration/keep": aRation({ kept: true }),
    "GET /rigs/7": RIG,
    "PUT /rigs/7?saw=12": RIG,
    "POST /agreed/end": null,
    ...answers,
  });
  const page = show(<WaterView />, "/", me);
  await screen.findByRole("heading", { level: 1 });
  return { wire, ...page };
};
const sent = (wire: ReturnType<typeof answering>, end: string) =>
  wire.filter((each) => each.path.includes(end) && each.method !== "GET").map((each) => each.body);

/** The rig's documents that were saved. */
const saved = (wire: ReturnType<typeof answering>) =>
  wire.filter((each) => each.method === "PUT").map((each) => each.body as Schemas["RigDoc"]);

describe("the water view", () => {
  it("says how long it lasts, and what comes first", async () => {
    await opened();
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("Water for about 4 days");
    expect(screen.getByText(/Grey tank comes first/)).toBeVisible();
    expect(screen.getByText(/good for about 9 more uses/)).toBeVisible();
  });

  it("of a tank that was drained it says that alone", async () => {
    await opened(aWater({ known: false, drained: "Drained: nothing is asked.", detail: "" }));
    expect(screen.getByText(/Drained: nothing is asked/)).toBeVisible();
    expect(screen.queryByRole("region", { name: "A ration" })).toBeNull();
  });
});

describe("a ration", () => {
  it("is asked for a day, drawn beside what is expected, and kept", async () => {
    const { wire, container } = await opened();
    expect(await screen.findByText(/14 L a day, in place of 20 L/)).toBeVisible();
    expect(within(screen.getByRole("list", { name: "What the ration allows" })).getAllByRole("listitem")).toHaveLength(
      2,
    );
    expect(container.querySelector("[data-part=ration]")).not.toBeNull();
    fireEvent.change(screen.getByLabelText("To last until the morning of", { selector: "input" }), {
      target: { value: "2026-12-01" },
    });
    await waitFor(() => expect(sent(wire, "/water/ration")).toContainEqual({ until: "2026-12-01", sure: 0.9 }));
    fireEvent.click(await screen.findByRole("button", { name: "Keep this ration" }));
    await waitFor(() => expect(sent(wire, "/ration/keep")).toEqual([{ until: "2026-12-01", sure: 0.9 }]));
  });

  it("under a published floor is named, and one that is kept can be ended", async () => {
    const kept = aRation({ kept: true, floor: "That is 2 L a person: less than a person needs." });
    const { wire } = await opened(aWater({ ration: kept }));
    expect(screen.getByText(/less than a person needs/)).toHaveAttribute("role", "note");
    expect(screen.queryByRole("button", { name: "Keep this ration" })).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "End the ration until Sun 29 Nov" }));
    await waitFor(() => expect(sent(wire, "/agreed/end")).toEqual([{ lever: "ration" }]));
  });

  it("says what is wrong with the day", async () => {
    await opened(aWater(), {
      "POST /water/ration": { status: 422, place: "until", label: "", problem: "too far ahead" },
    });
    expect(await screen.findByRole("alert")).toHaveTextContent("too far ahead");
  });
});

describe("what is aboard", () => {
  it("habits are asked in people's terms and kept by the day", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Change your habits" }));
    const navy = await screen.findByRole("group", { name: "navy" });
    expect(within(navy).getByLabelText("Times")).toHaveValue("3.5");
    fireEvent.change(within(navy).getByLabelText("Times"), { target: { value: "7" } });
    fireEvent.click(within(navy).getByLabelText("Wed"));
    fireEvent.change(within(navy).getByLabelText("One takes, L"), { target: { value: "6,5" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the habits" }));
    await waitFor(() => expect(saved(wire)).toHaveLength(1));
    expect(saved(wire)[0]?.habits).toEqual([
      { activity: "dishes", per_day: 1.5, each_l: null, not_on: null },
      { activity: "navy", per_day: 1, each_l: 6.5, not_on: [2] },
    ]);
    // the rest of the document is as it was
    expect({ ...saved(wire)[0], habits: undefined }).toEqual({ ...RIG.doc, habits: undefined });
  });

  it("what is no number, or out of range, is said at its field and nothing is sent", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Change your habits" }));
    const dishes = await screen.findByRole("group", { name: "dishes" });
    const times = within(dishes).getByLabelText("Times");
    fireEvent.change(times, { target: { value: "often" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the habits" }));
    expect(await within(dishes).findByText(/"often" is not a number/)).toBeVisible();
    expect(times).toHaveValue("often");
    fireEvent.change(times, { target: { value: "2" } });
    fireEvent.change(within(dishes).getByLabelText("One takes, L"), { target: { value: "900" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the habits" }));
    expect(await within(dishes).findByText("Write a number of at most 500 L.")).toBeVisible();
    expect(saved(wire)).toEqual([]);
  });

  it("jugs are added, changed and taken off the list, and keep what is in them", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Change the jugs" }));
    fireEvent.click(await screen.findByRole("button", { name: "Add a jug" }));
    const second = screen.getByRole("group", { name: "Jug 2" });
    fireEvent.change(within(second).getByLabelText("Holds, L"), { target: { value: "25" } });
    fireEvent.click(within(second).getByLabelText("for drinking"));
    fireEvent.change(within(screen.getByRole("group", { name: "Jug 1" })).getByLabelText("Where it is kept"), {
      target: { value: "" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Save the jugs" }));
    await waitFor(() => expect(saved(wire)).toHaveLength(1));
    expect(saved(wire)[0]?.jugs).toEqual([
      { ...JUG, where: null },
      { id: "jug-2", name: "Jug 2", litres: 25, drinkable: false, where: null },
    ]);
    fireEvent.click(await screen.findByRole("button", { name: "Change the jugs" }));
    fireEvent.click(await screen.findByRole("button", { name: "Take Jug 1 off the list" }));
    fireEvent.click(screen.getByRole("button", { name: "Save the jugs" }));
    await waitFor(() => expect(saved(wire)[1]?.jugs).toEqual([]));
  });

  it("a gallon is the one that the rig's people mean", async () => {
    const british = { ...ME, rigs: ME.rigs.map((rig) => ({ ...rig, units: "uk" as const })) };
    const { wire } = await opened(aWater(), {}, british);
    fireEvent.click(screen.getByRole("button", { name: "Change the jugs" }));
    fireEvent.change(await screen.findByLabelText("Holds, L"), { target: { value: "5 gal" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the jugs" }));
    // 4.54609 L: the imperial gallon by definition
    await waitFor(() => expect(saved(wire)[0]?.jugs?.[0]?.litres).toBeCloseTo(5 * 4.54609, 6));
  });

  it("what somebody else changed meanwhile is said, what was typed stays, and is saved over it when asked again", async () => {
    const theirs = aRig({ name: "Heron of two" }, { revision: 20 });
    const { wire } = await opened(aWater(), {
      "PUT /rigs/7?saw=12": { status: 409, place: "", label: "", problem: "it was changed meanwhile", stands: theirs },
      "PUT /rigs/7?saw=20": theirs,
    });
    fireEvent.click(screen.getByRole("button", { name: "Heater, filter and hose" }));
    const filter = await screen.findByLabelText("Filter is good for, L");
    fireEvent.change(filter, { target: { value: "2500" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the gear" }));
    expect(await screen.findByText("it was changed meanwhile")).toBeVisible();
    expect(filter).toHaveValue("2500");
    fireEvent.click(screen.getByRole("button", { name: "Save the gear" }));
    await waitFor(() => expect(saved(wire)).toHaveLength(2));
    expect(saved(wire)[1]).toEqual({
      ...theirs.doc,
      water: { heater_l: 10, disinfect_days: 120, filter_l: 2500 },
    });
  });

  it("habits that somebody else changed meanwhile are not replaced without a word", async () => {
    const theirs = aRig({ habits: [{ activity: "shower", per_day: 1 }] }, { revision: 20 });
    const { wire } = await opened(aWater(), {
      "PUT /rigs/7?saw=12": { status: 409, place: "", label: "", problem: "it was changed meanwhile", stands: theirs },
      "PUT /rigs/7?saw=20": theirs,
    });
    fireEvent.click(screen.getByRole("button", { name: "Change your habits" }));
    const navy = await screen.findByRole("group", { name: "navy" });
    fireEvent.change(within(navy).getByLabelText("Times"), { target: { value: "7" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the habits" }));
    expect(await screen.findByText("it was changed meanwhile")).toBeVisible();
    expect(saved(wire)).toHaveLength(1);
  });

  it("a refusal stands at its field", async () => {
    await opened(aWater(), {
      "PUT /rigs/7?saw=12": { status: 422, place: "rig.water.heater_c", label: "", problem: "too hot for that" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Heater, filter and hose" }));
    const temp = await screen.findByLabelText("Its water, °C");
    fireEvent.change(temp, { target: { value: "60" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the gear" }));
    await waitFor(() => expect(temp).toHaveAttribute("aria-invalid", "true"));
    expect(screen.getByText("too hot for that")).toBeVisible();
  });

  it("one touch logs what was due, and that the rig was drained", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Changed the filter" }));
    expect(await screen.findByText("Logged: Changed the filter")).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: /^Drained tanks and lines/ }));
    await waitFor(() => expect(writesOf(wire)).toHaveLength(2));
    expect(writesOf(wire).map((each) => each.add?.event?.type)).toEqual(["filter", "drain"]);
  });

  it("a fouled gauge is read with its floor from now on", async () => {
    const fouled = {
      store: "fresh",
      words: "Black tank showed 33 % right after it was emptied.",
      floor: 0.33,
      read_with_floor: "Read Black tank with a floor of 33 %",
      was_left: "It was not empty: about 33 % stayed in",
      dumped: { at: "2026-11-24T10:00:00+00:00", date: "2026-11-24", time: "10:00" },
      event: "entry-9",
    };
    const { wire } = await opened(aWater({ fouled: [fouled] }));
    expect(screen.getByRole("link", { name: "Open the day" })).toHaveAttribute("href", "/log?day=2026-11-24");
    fireEvent.click(screen.getByRole("button", { name: /stayed in/ }));
    await waitFor(() =>
      expect(writesOf(wire)).toEqual([
        {
          saw: 3,
          correct: {
            entry: { kind: "event", id: "entry-9" },
            to: { event: { type: "dump", store: "fresh", left: 0.33, full: false } },
          },
        },
      ]),
    );
    fireEvent.click(screen.getByRole("button", { name: fouled.read_with_floor }));
    await waitFor(() => expect(saved(wire)[0]?.stores.map((each) => each.reads_from)).toEqual([0.33, undefined]));
  });

  it("a reader looks and changes nothing", async () => {
    await opened(aWater({ ration: aRation({ kept: true }) }), {}, READER);
    for (const name of [/habits/, /jugs/, /Heater/, /ration/, /filter/, /Drained/])
      expect(screen.queryByRole("button", { name })).toBeNull();
  });
});
