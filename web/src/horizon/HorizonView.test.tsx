import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { aHorizon, aLane } from "../testing/horizon";
import { answering, asWideAs, show, writesOf } from "../testing/testing";
import { HorizonView } from "./HorizonView";

const forgotten: Schemas["DoubtOut"] = {
  store: "fresh",
  kind: "rise",
  date: "2026-11-24",
  reading: "entry-4",
  words: "Fresh water rose by about 60 L by Tuesday 24 November with nothing logged for it. Filled?",
  settle: { label: "Yes, filled to the brim", how: "log", type: "fill", full: true, on: "2026-11-24", time: "12:00" },
};

const opened = (answer: object = aHorizon(), more: Record<string, unknown> = {}) => {
  const asked = answering({ "POST /horizon/seen": {}, "GET /horizon": answer, ...more });
  return { asked, ...show(<HorizonView />) };
};

beforeEach(() => asWideAs(1200));
afterEach(() => vi.restoreAllMocks());

const EMPTIED = {
  label: "Emptied Urine bottle",
  type: "dump",
  store: "urine",
  asks: "nothing",
  unit: null,
  question: null,
  needs_amount: false,
};

describe("the Horizon", () => {
  it("opens with the sentence, before any figure", async () => {
    opened();
    const sentence = await screen.findByRole("heading", { level: 1 });
    expect(sentence).toHaveTextContent("About 3 days: Fresh water runs out first, Saturday noon.");
    expect(screen.getByText("It reaches its line on Saturday.")).toBeVisible();
    expect(screen.getByText(/lode line: the level at which its store sends you away/)).toBeVisible();
  });

  it("says once that this forecast was seen", async () => {
    const { asked } = opened();
    await screen.findByRole("heading", { level: 1 });
    const said = () => asked.filter((each) => each.path.endsWith("/seen"));
    await waitFor(() => expect(said()).toHaveLength(1));
    expect(said()[0]?.body).toEqual({ revision: 12 });
  });

  it("names the store that is first in its lane, and only there", async () => {
    opened({ ...aHorizon(), lanes: [aLane(), { ...aLane(), id: "grey", name: "Grey tank", first: null }] });
    expect(await screen.findByRole("button", { name: /^Fresh water runs out first 40 L 35 to 45 L/ })).toBeVisible();
    expect(screen.getByRole("button", { name: /^Grey tank 40 L/ })).not.toHaveTextContent("first");
  });

  it("says that a level is not known rather than drawing a guess", async () => {
    opened({ ...aHorizon(), lanes: [{ ...aLane(), known: false, level: null, fan: [], past: [] }] });
    expect(await screen.findByRole("button", { name: /not known yet/ })).toBeVisible();
  });

  it("shows a lane's figures and what they rest on at one touch, and puts them away again", async () => {
    opened();
    const head = await screen.findByRole("button", { name: /^Fresh water/ });
    fireEvent.click(head);
    expect(head).toHaveAttribute("aria-expanded", "true");
    expect(screen.getByText("12 L a day net, from the log")).toBeVisible();
    expect(screen.getByText("The level rests on: last filled on Sun 22 Nov.")).toBeVisible();
    fireEvent.click(head);
    expect(screen.queryByText("12 L a day net, from the log")).toBeNull();
  });

  it("opens the plan of a coming day, and the page of a past one", async () => {
    opened();
    expect(await screen.findAllByRole("button", { name: /change the plan$/ })).toHaveLength(5);
    expect(screen.getAllByRole("button", { name: /open in the Logbook$/ })).toHaveLength(5);
    // what is read aloud holds what is seen
    const coming = screen.getByRole("button", { name: /^Thu 26.*26 November, wet, change the plan$/ });
    fireEvent.click(coming);
    expect(await screen.findByRole("dialog", { name: "Plan for Thursday 26 November" })).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Done" }));
    fireEvent.click(await screen.findByRole("button", { name: /21 November, .*open in the Logbook$/ }));
    expect(await screen.findByTestId("elsewhere")).toHaveTextContent("/log?day=2026-11-21");
  });

  it("marks what is planned on a day, and gives the chance to stay on each", async () => {
    const horizon = aHorizon();
    const days = horizon.days.map((day, index) => ({
      ...day,
      planned: index === 6 ? "drive" : null,
      temp_min: -3.4,
      temp_max: 8.6,
    }));
    opened({ ...horizon, days });
    const strip = await screen.findByRole("group", { name: "Strip of days" });
    expect(within(strip).getByText("drive")).toBeVisible();
    expect(within(strip).getAllByText("-3/9°")).toHaveLength(10);
    expect(strip).toHaveTextContent(/Chance to stay, %sure80604020$/);
  });

  it("marks the day that matters only where it lies on the strip", async () => {
    const { container, unmount } = opened();
    await screen.findByRole("group", { name: "Strip of days" });
    await waitFor(() => expect(container.querySelector("[data-part=first]")).not.toBeNull());
    unmount();
    const late = opened({ ...aHorizon(), first_at: null, first_low_at: null });
    await screen.findByRole("group", { name: "Strip of days" });
    expect(late.container.querySelector("[data-part=first]")).toBeNull();
  });

  it("logs what was forgotten at one touch, at the time it must have been", async () => {
    const { asked } = opened({ ...aHorizon(), doubts: [forgotten] });
    const doubts = await screen.findByRole("region", { name: "Entries to check" });
    expect(within(doubts).getByRole("link", { name: "Open that day" })).toHaveAttribute("href", "/log?day=2026-11-24");
    fireEvent.click(within(doubts).getByRole("button", { name: "Yes, filled to the brim" }));
    await waitFor(() =>
      expect(writesOf(asked)).toEqual([
        {
          saw: null,
          add: { event: { type: "fill", store: "fresh", full: true }, on: "2026-11-24", time: "12:00" },
        },
      ]),
    );
  });

  it("asks without a button where no one thing would settle it", async () => {
    opened({ ...aHorizon(), doubts: [{ ...forgotten, settle: null, words: "Grey grows faster than fresh is used." }] });
    const doubts = await screen.findByRole("region", { name: "Entries to check" });
    expect(within(doubts).queryByRole("button")).toBeNull();
  });

  it("says what to do at the next stop, with the cautions of a stop", async () => {
    const need = { store: "fresh", name: "Fresh water", words: "fill 60 L, due", due: true };
    opened({ ...aHorizon(), stop: [need] });
    const stop = await screen.findByRole("region", { name: "At your next stop" });
    expect(stop).toHaveTextContent("Fresh water: fill 60 L, due");
    expect(stop).toHaveTextContent("Empty waste only where it is allowed.");
  });

  it("says what was refused, and tries again when asked to", async () => {
    const { asked } = opened({ status: 500, place: "", problem: "Lodeline could not answer." });
    expect(await screen.findByRole("alert")).toHaveTextContent("Lodeline could not answer.");
    fireEvent.click(screen.getByRole("button"));
    await waitFor(() => expect(asked).toHaveLength(2));
  });

  it("says what is done without driving off, beside the sentence", async () => {
    const { asked } = opened({
      ...aHorizon(),
      chores: [{ words: "Empty Urine bottle by Saturday evening.", act: EMPTIED }],
    });
    const list = await screen.findByRole("list", { name: "Without driving off" });
    expect(within(list).getByRole("listitem")).toHaveTextContent("Empty Urine bottle by Saturday evening.");
    fireEvent.click(within(list).getByRole("button", { name: "Emptied Urine bottle" }));
    await waitFor(() => expect(writesOf(asked)).toHaveLength(1));
    expect(writesOf(asked)[0]?.add?.event).toEqual({ type: "dump", store: "urine", full: false });
    expect(await screen.findByRole("button", { name: "Undo: Emptied Urine bottle" })).toBeVisible();
  });

  it("confirms a doubted reading, and takes out what was logged twice, by one touch", async () => {
    const sure = { label: "Yes, it is right", how: "confirm", full: false, entry: "entry-4", kind: "reading" };
    const twice = { label: "Take one out", how: "remove", full: false, entry: "entry-9", kind: "event" };
    const { asked } = opened({
      ...aHorizon(),
      doubts: [
        { ...forgotten, kind: "reading", words: "The reading does not fit.", settle: sure },
        { ...forgotten, kind: "twice", words: "It was logged twice.", settle: twice },
      ],
    });
    fireEvent.click(await screen.findByRole("button", { name: "Yes, it is right" }));
    fireEvent.click(screen.getByRole("button", { name: "Take one out" }));
    await waitFor(() => expect(writesOf(asked)).toHaveLength(2));
    const [confirm, remove] = writesOf(asked);
    expect(confirm?.correct).toEqual({ entry: { kind: "reading", id: "entry-4" }, to: { confirmed: true } });
    expect(remove?.remove).toEqual({ kind: "event", id: "entry-9" });
    expect(confirm?.saw).toBe(12);
  });
});
