import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { outbox } from "../outbox/outbox";
import { type Asked, answering, show, writesOf } from "../testing/testing";
import { Acts } from "./Acts";

const act = (label: string, type: string, store: string | null, asks: string, more: object = {}) => ({
  label,
  type,
  store,
  asks,
  unit: null,
  question: null,
  needs_amount: false,
  ...more,
});

const ACTS = [
  act("Filled Fresh water", "fill", "fresh", "amount", {
    unit: "L",
    question: "Filled Fresh water: how much; empty means to the brim (L)",
  }),
  act("Emptied Grey tank", "dump", "grey", "nothing"),
  act("Drove", "drive", null, "hours", {
    often: true,
    unit: "h",
    far: "km",
    question: "Drove: for how long (h), or how far (km)",
  }),
  act("Showered", "shower", null, "count", { question: "Showered: how often" }),
  act("Navy shower", "navy", null, "count", {
    question: "Navy shower: how often",
    measured: "Water of all of them, if it was measured (L)",
  }),
  act("Changed the filter", "filter", null, "nothing", { rare: true }),
  act("Reserve into Fresh water", "move", "fresh", "amount", {
    unit: "L",
    question: "Reserve into Fresh water: how much (L)",
    needs_amount: true,
  }),
];

const draw = (...outcomes: object[]) => {
  const asked = answering({ "POST /writes": outcomes[0] ?? {} });
  show(<Acts acts={ACTS} rig={7} />);
  return asked;
};

const touch = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const sent = (asked: Asked[], at = 0) => writesOf(asked)[at]?.add?.event;

describe("what was done today", () => {
  it("is logged by one touch where nothing need be asked", async () => {
    const asked = draw();
    touch("Emptied Grey tank");
    expect(await screen.findByText("Logged: Emptied Grey tank")).toBeVisible();
    expect(sent(asked)).toEqual({ type: "dump", store: "grey", full: false });
    touch("Filled Fresh water");
    await waitFor(() => expect(writesOf(asked)).toHaveLength(2));
    expect(sent(asked, 1)).toEqual({ type: "fill", store: "fresh", full: true });
    touch("Showered");
    await waitFor(() => expect(writesOf(asked)).toHaveLength(3));
    expect(sent(asked, 2)).toMatchObject({ type: "shower", count: 1 });
  });

  it("is logged once by a double touch, and twice by two", async () => {
    const asked = draw();
    const button = screen.getByRole("button", { name: "Showered" });
    fireEvent.click(button);
    fireEvent.click(button);
    await screen.findByText("Logged: Showered");
    fireEvent.click(button);
    expect(writesOf(asked)).toHaveLength(1);
    vi.spyOn(performance, "now").mockReturnValue(performance.now() + 2_000);
    fireEvent.click(button);
    await waitFor(() => expect(writesOf(asked)).toHaveLength(2));
  });

  it("takes the amount of a part fill, with comma or point", async () => {
    const asked = draw();
    touch("Filled Fresh water, only a part");
    const field = screen.getByLabelText(/how much; empty means to the brim \(L\)/);
    fireEvent.change(field, { target: { value: "12,5" } });
    touch("Log it");
    await waitFor(() => expect(writesOf(asked)).toHaveLength(1));
    expect(sent(asked)).toEqual({ type: "fill", store: "fresh", full: false, amount: 12.5 });
  });

  it("takes an amount after which it is full", async () => {
    const asked = draw();
    touch("Filled Fresh water, only a part");
    fireEvent.change(screen.getByLabelText(/how much; empty means to the brim \(L\)/), { target: { value: "62" } });
    fireEvent.click(screen.getByLabelText(/with that it is full/));
    touch("Log it");
    await waitFor(() => expect(writesOf(asked)).toHaveLength(1));
    expect(sent(asked)).toEqual({ type: "fill", store: "fresh", full: true, amount: 62 });
  });

  it("asks for hours before it logs a drive", async () => {
    const asked = draw();
    touch("Drove");
    expect(writesOf(asked)).toHaveLength(0);
    fireEvent.change(screen.getByLabelText(/for how long \(h\)/), { target: { value: "2.5" } });
    touch("Log it");
    await waitFor(() => expect(sent(asked)).toMatchObject({ type: "drive", hours: 2.5 }));
    await waitFor(() => expect(screen.queryByRole("button", { name: "Log it" })).toBeNull());
  });

  it.each([
    ["1:20", { hours: 4 / 3 }],
    ["1 h 20", { hours: 4 / 3 }],
    ["45 min", { hours: 0.75 }],
    ["84 km", { hours: null, distance: 84 }],
  ])("takes a drive of %s", async (text, told) => {
    const asked = draw();
    touch("Drove");
    fireEvent.change(screen.getByLabelText(/for how long/), { target: { value: text } });
    touch("Log it");
    await waitFor(() => expect(writesOf(asked)).toHaveLength(1));
    const { hours, distance } = sent(asked) as { hours: number | null; distance?: number };
    expect({
      hours: hours === null ? null : Number(hours.toFixed(6)),
      ...(distance === undefined ? {} : { distance }),
    }).toEqual("distance" in told ? told : { hours: Number(told.hours.toFixed(6)) });
  });

  it("is taken back by one touch, by its receipt", async () => {
    const asked = draw();
    touch("Emptied Grey tank");
    fireEvent.click(await screen.findByRole("button", { name: "Undo: Emptied Grey tank" }));
    expect(await screen.findByText("Undone: Emptied Grey tank")).toBeVisible();
    const ids = asked.flatMap((each) => (each.body as { writes: { id: string }[] }).writes.map((write) => write.id));
    expect(writesOf(asked)[1]).toEqual({ saw: 0, remove: { kind: "event", id: ids[0] } });
  });

  it("does not log what is no number, an hour that was emptied, nor a reserve of nothing", async () => {
    const asked = draw();
    touch("Drove");
    const hours = screen.getByLabelText(/for how long/);
    fireEvent.change(hours, { target: { value: "-2" } });
    touch("Log it");
    await waitFor(() => expect(hours).toHaveAccessibleDescription("Write a number greater than 0."));
    fireEvent.change(hours, { target: { value: "" } });
    await waitFor(() => expect(hours).toHaveAccessibleDescription(/it was left empty/));
    touch("Reserve into Fresh water");
    touch("Log it");
    await waitFor(() => expect(screen.getByLabelText(/Reserve into/)).toHaveAccessibleDescription(/it was left empty/));
    touch("Cancel");
    expect(writesOf(asked)).toHaveLength(0);
  });

  it("says when it waits, and is taken back then too", async () => {
    vi.spyOn(navigator, "onLine", "get").mockReturnValue(false);
    answering({ "POST /writes": { status: 503, place: "", problem: "away" } });
    show(<Acts acts={ACTS} rig={7} />);
    touch("Emptied Grey tank");
    expect(await screen.findByText("Kept on this device, waits for a signal: Emptied Grey tank")).toBeVisible();
    touch("Undo: Emptied Grey tank");
    expect(await screen.findByText("Undone: Emptied Grey tank")).toBeVisible();
    const [logged, undone] = outbox.all();
    expect(undone?.what.remove).toEqual({ kind: "event", id: logged?.id });
  });

  it("says what was refused, and in the form that asked for it", async () => {
    const problem = "400 L is more than the 100 L that it holds";
    draw({ state: "refused", place: "add.event.amount", label: "Amount", problem });
    touch("Showered");
    expect(await screen.findByText(`Amount: ${problem}`)).toBeVisible();
    touch("Filled Fresh water, only a part");
    fireEvent.change(screen.getByLabelText(/how much/), { target: { value: "400" } });
    touch("Log it");
    await waitFor(() => expect(screen.getAllByText(/400 L is more than/)).toHaveLength(2));
  });

  it("asks how often, and the water of all of them where it was measured", async () => {
    const asked = draw();
    touch("Navy shower, more than one, or measured");
    fireEvent.change(screen.getByLabelText("Navy shower: how often"), { target: { value: "2" } });
    fireEvent.change(screen.getByLabelText(/^Water of all of them/), { target: { value: "13" } });
    touch("Log it");
    await waitFor(() => expect(sent(asked)).toEqual({ type: "navy", store: null, full: false, count: 2, amount: 13 }));
    touch("Navy shower");
    await waitFor(() => expect(sent(asked, 1)).toEqual({ type: "navy", store: null, full: false, count: 1 }));
  });

  it("keeps what is seldom done apart", () => {
    draw();
    const all = screen.getByText("Changed the filter").closest("details");
    expect(all).toHaveTextContent(/^All that can be logged/);
    expect(all?.textContent?.indexOf("Seldom done")).toBeLessThan(all?.textContent?.indexOf("Changed the filter") ?? 0);
    expect(screen.getByText("Drove").closest("details")).toBeNull();
  });
});
