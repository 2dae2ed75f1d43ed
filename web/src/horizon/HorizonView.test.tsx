import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { answering, asWideAs, show } from "../app/testing";
import { HorizonView } from "./HorizonView";
import { aHorizon, aLane } from "./testing";

const forgotten: Schemas["DoubtOut"] = {
  store: "fresh",
  kind: "rise",
  at: "2026-11-24T20:00:00+00:00",
  reading: 4,
  words: "Fresh water rose by about 60 L by Tue 24 Nov with no fill logged. Filled?",
  settle: "fill",
  settle_at: "2026-11-24T12:00:00+00:00",
};

const opened = (answer: object = aHorizon(), more: Record<string, unknown> = {}) => {
  const asked = answering({ "GET /horizon": answer, ...more });
  show(<HorizonView />);
  return asked;
};

beforeEach(() => asWideAs(1200));
afterEach(() => vi.restoreAllMocks());

describe("the Horizon", () => {
  it("opens with the sentence, before any figure", async () => {
    opened();
    const sentence = await screen.findByRole("heading", { level: 1 });
    expect(sentence).toHaveTextContent("About 3 days left: Fresh water sends you away first.");
    expect(screen.getByText("It reaches its line on Saturday.")).toBeVisible();
  });

  it("names the store that binds in its lane, and only there", async () => {
    opened({ ...aHorizon(), lanes: [aLane(), { ...aLane(), id: "grey", name: "Grey tank" }] });
    expect(await screen.findByRole("button", { name: /^Fresh water binds 40 L 35 to 45 L/ })).toBeVisible();
    expect(screen.getByRole("button", { name: /^Grey tank 40 L/ })).not.toHaveTextContent("binds");
  });

  it("says that a level is not known rather than drawing a guess", async () => {
    opened({ ...aHorizon(), lanes: [{ ...aLane(), known: false, level: null, fan: [], past: [] }] });
    expect(await screen.findByRole("button", { name: /not known yet/ })).toBeVisible();
  });

  it("shows a lane's figures with units and what they rest on at one touch, and puts them away again", async () => {
    opened();
    const head = await screen.findByRole("button", { name: /^Fresh water/ });
    fireEvent.click(head);
    expect(head).toHaveAttribute("aria-expanded", "true");
    expect(screen.getByText("40 L, 8 in 10 from 35 L to 45 L")).toBeVisible();
    expect(screen.getByText("12 L a day net, from the log")).toBeVisible();
    expect(screen.getByText(/1 in 10 by Fri 27 Nov, 12:00; as likely as not by Sat 28 Nov/)).toBeVisible();
    expect(screen.getByText("The level rests on: last filled on Sun 22 Nov.")).toBeVisible();
    fireEvent.click(head);
    expect(screen.queryByText("12 L a day net, from the log")).toBeNull();
  });

  it("calls an assumed use assumed, and a late line perhaps later", async () => {
    const lane = { ...aLane(), assumed: true, p50_at: null, p90_at: null, reserve: 20, sense: "fills" };
    opened({ ...aHorizon(), lanes: [lane] });
    fireEvent.click(await screen.findByRole("button", { name: /^Fresh water/ }));
    expect(screen.getByText("Expected inflow")).toBeVisible();
    expect(screen.getByText(/assumed from crew and kind until more days are logged/)).toBeVisible();
    expect(screen.getByText(/less likely than not on this strip; perhaps later than this strip/)).toBeVisible();
    expect(screen.getByText("20 L")).toBeVisible();
  });

  it("tells past days from coming ones: only these can be changed", async () => {
    opened();
    const days = await screen.findAllByRole("button", { name: /November/ });
    expect(days).toHaveLength(10);
    expect(days.filter((day) => !day.hasAttribute("disabled"))).toHaveLength(5);
    fireEvent.click(screen.getByRole("button", { name: /Thursday 26 November, wet, change what it brings/ }));
    expect(await screen.findByRole("dialog", { name: "Thursday 26 November brings" })).toBeVisible();
  });

  it("marks what is planned on a day, and gives the chance to stay on each", async () => {
    const found = aHorizon();
    const planned = [{ drive_hours: 2 }, { status: "hookup" }, { generator_hours: 1 }, { status: "moving" }];
    const days = found.days.map((day, index) => ({ ...day, ...planned[index - 5], temp_min: -3.4, temp_max: 8.6 }));
    opened({ ...found, days });
    const strip = await screen.findByRole("group", { name: "Strip of days" });
    for (const word of ["drive", "post", "gen.", "move"]) expect(within(strip).getByText(word)).toBeVisible();
    expect(within(strip).getAllByText("-3/9°")).toHaveLength(10);
    expect(strip).toHaveTextContent(/Chance to stay, %10080604020$/);
  });

  it("draws the mark of the day that matters only where it lies on the strip", async () => {
    const { container, unmount } = (answering({ "GET /horizon": aHorizon() }), show(<HorizonView />));
    await screen.findByRole("group", { name: "Strip of days" });
    await waitFor(() => expect(container.querySelector("[data-part=bind]")).not.toBeNull());
    unmount();
    const late = (answering({ "GET /horizon": { ...aHorizon(), mark: null, mark_low: null } }), show(<HorizonView />));
    await screen.findByRole("group", { name: "Strip of days" });
    expect(late.container.querySelector("[data-part=bind]")).toBeNull();
  });

  it("logs what was forgotten at one touch, at the time it must have been", async () => {
    const asked = opened({ ...aHorizon(), doubts: [forgotten] }, { "POST /events": {} });
    const doubts = await screen.findByRole("region", { name: "What hardly fits" });
    expect(doubts).toHaveTextContent("Filled?");
    expect(within(doubts).getByRole("link", { name: "Open that day" })).toHaveAttribute("href", "/log?day=2026-11-24");
    fireEvent.click(within(doubts).getByRole("button", { name: "Yes, filled to the brim" }));
    await waitFor(() => expect(asked.filter((each) => each.method === "GET")).toHaveLength(2));
    expect(asked.find((each) => each.method === "POST")?.body).toEqual({
      type: "fill",
      store: "fresh",
      at: "2026-11-24T12:00:00+00:00",
      full: true,
    });
  });

  it("asks without a button where no one thing would settle it", async () => {
    opened({ ...aHorizon(), doubts: [{ ...forgotten, settle: null, words: "Grey grows faster than fresh is used." }] });
    const doubts = await screen.findByRole("region", { name: "What hardly fits" });
    expect(within(doubts).queryByRole("button")).toBeNull();
  });

  it("says what the next stop would have to do, with the cautions of a stop", async () => {
    const need = { store: "fresh", name: "Fresh water", act: "fill", words: "60 L to the brim", due: true };
    opened({ ...aHorizon(), stop: [need] });
    const stop = await screen.findByRole("region", { name: "The next stop" });
    expect(stop).toHaveTextContent("Fresh water: 60 L to the brim, due");
    expect(stop).toHaveTextContent("Empty waste only where it is allowed.");
  });

  it("says what was refused, and tries again when asked to", async () => {
    const asked = opened({ status: 500, place: "", problem: "Lodeline could not answer." });
    expect(await screen.findByRole("alert")).toHaveTextContent("Lodeline could not answer.");
    fireEvent.click(screen.getByRole("button"));
    await waitFor(() => expect(asked).toHaveLength(2));
  });
});
