import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { aRation, aWater } from "../testing/water";
import { answering, asWideAs, ME, READER, show, writesOf } from "../testing/testing";
import { WaterView } from "./WaterView";

beforeEach(() => asWideAs(600));
afterEach(() => vi.restoreAllMocks());

const opened = async (water = aWater(), answers: Record<string, unknown> = {}, me = ME) => {
  const wire = answering({
    "GET /water": water,
    "POST /water/ration": aRation(),
    "POST /water/ration/keep": aRation({ kept: true }),
    "PUT /water/aboard?saw=3": { revision: 3 },
    "PUT /water/floor?saw=3": { revision: 3 },
    "POST /agreed/end": null,
    ...answers,
  });
  const page = show(<WaterView />, "/", me);
  await screen.findByRole("heading", { level: 1 });
  return { wire, ...page };
};
const sent = (wire: ReturnType<typeof answering>, end: string) =>
  wire.filter((each) => each.path.includes(end) && each.method !== "GET").map((each) => each.body);

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
  it("habits are asked in people's terms and sent by the day", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Change your habits" }));
    const navy = screen.getByRole("group", { name: "navy" });
    expect(within(navy).getByLabelText("Times")).toHaveValue("3.5");
    fireEvent.change(within(navy).getByLabelText("Times"), { target: { value: "7" } });
    fireEvent.click(within(navy).getByLabelText("Wed"));
    fireEvent.change(within(navy).getByLabelText("One takes, L"), { target: { value: "6,5" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the habits" }));
    await waitFor(() =>
      expect(sent(wire, "/water/aboard")).toEqual([
        {
          habits: [
            { activity: "dishes", per_day: 1.5, each: null, not_on: [] },
            { activity: "navy", per_day: 1, each: 6.5, not_on: [2] },
          ],
        },
      ]),
    );
  });

  it("what is no number is said to be none and nothing is sent", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Change your habits" }));
    fireEvent.change(within(screen.getByRole("group", { name: "dishes" })).getByLabelText("Times"), {
      target: { value: "often" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Save the habits" }));
    expect(await screen.findByRole("alert")).toHaveTextContent('"often" is not a number');
    expect(sent(wire, "/water/aboard")).toEqual([]);
  });

  it("jugs are added, changed and taken off the list", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Change the jugs" }));
    fireEvent.click(screen.getByRole("button", { name: "Add a jug" }));
    const second = screen.getByRole("group", { name: "Jug 2" });
    fireEvent.change(within(second).getByLabelText("Holds, L"), { target: { value: "25" } });
    fireEvent.click(within(second).getByLabelText("for drinking"));
    fireEvent.change(within(screen.getByRole("group", { name: "Jug 1" })).getByLabelText("Where it is kept"), {
      target: { value: "" },
    });
    fireEvent.click(screen.getByRole("button", { name: "Save the jugs" }));
    await waitFor(() => expect(sent(wire, "/water/aboard")).toHaveLength(1));
    expect(sent(wire, "/water/aboard")[0]).toEqual({
      jugs: [
        { id: "jug-1", name: "Jug 1", holds: 10, where: null, drinkable: true, in_use: false },
        { id: "jug-2", name: "Jug 2", holds: 25, where: null, drinkable: false, in_use: false },
      ],
    });
    fireEvent.click(screen.getByRole("button", { name: "Change the jugs" }));
    fireEvent.click(screen.getByRole("button", { name: "Take Jug 1 off the list" }));
    fireEvent.click(screen.getByRole("button", { name: "Save the jugs" }));
    await waitFor(() => expect(sent(wire, "/water/aboard")[1]).toEqual({ jugs: [] }));
  });

  it("a gallon is the one that the rig's people mean", async () => {
    const british = { ...ME, rigs: ME.rigs.map((rig) => ({ ...rig, units: "uk" as const })) };
    const { wire } = await opened(aWater(), {}, british);
    fireEvent.click(screen.getByRole("button", { name: "Change the jugs" }));
    fireEvent.change(screen.getByLabelText("Holds, L"), { target: { value: "5 gal" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the jugs" }));
    await waitFor(() => expect(sent(wire, "/water/aboard")).toHaveLength(1));
    // 4.54609 L: the imperial gallon by definition
    expect(sent(wire, "/water/aboard")[0]).toMatchObject({ jugs: [{ holds: 5 * 4.54609 }] });
  });

  it("a jug that holds nothing is refused before it is sent", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Change the jugs" }));
    fireEvent.change(screen.getByLabelText("Holds, L"), { target: { value: "" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the jugs" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("how much it holds must be over 0");
    expect(sent(wire, "/water/aboard")).toEqual([]);
  });

  it("gear is sent whole, what was left empty as not known", async () => {
    const { wire } = await opened();
    fireEvent.click(screen.getByRole("button", { name: "Heater, filter and hose" }));
    fireEvent.change(screen.getByLabelText("Filter is good for, L"), { target: { value: "2500" } });
    fireEvent.click(screen.getByRole("button", { name: "Save the gear" }));
    await waitFor(() => expect(sent(wire, "/water/aboard")).toHaveLength(1));
    expect(sent(wire, "/water/aboard")[0]).toMatchObject({
      gear: { heater: 10, filter: 2500, heater_temp: null, cart: false },
    });
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
      store: "black",
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
            to: { event: { type: "dump", store: "black", left: 0.33, full: false } },
          },
        },
      ]),
    );
    fireEvent.click(screen.getByRole("button", { name: fouled.read_with_floor }));
    await waitFor(() => expect(sent(wire, "/water/floor")).toEqual([{ store: "black", shown: 0.33 }]));
  });

  it("a reader looks and changes nothing", async () => {
    await opened(aWater({ ration: aRation({ kept: true }) }), {}, READER);
    for (const name of [/habits/, /jugs/, /Heater/, /ration/, /filter/, /Drained/])
      expect(screen.queryByRole("button", { name })).toBeNull();
  });
});
