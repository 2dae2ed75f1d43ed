import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { Refusal } from "../api/client";
import { held, show } from "../testing/testing";
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
  act("Drove", "drive", null, "hours", { unit: "h", question: "Drove: for how long (h)" }),
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

const draw = (log = vi.fn().mockResolvedValue({ waits: false, entry: null })) => {
  show(<Acts acts={ACTS} log={log} />);
  return log;
};

const touch = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const sent = (log: ReturnType<typeof vi.fn>, at = 0) =>
  (log.mock.calls[at]?.[0] as { what: { add: { event: unknown } } }).what.add.event;

describe("what was done today", () => {
  it("is logged by one touch where nothing need be asked", async () => {
    const log = draw();
    touch("Emptied Grey tank");
    expect(await screen.findByText("Logged: Emptied Grey tank")).toBeVisible();
    expect(sent(log)).toEqual({ type: "dump", store: "grey", full: false });
    touch("Filled Fresh water");
    await waitFor(() => expect(log).toHaveBeenCalledTimes(2));
    expect(sent(log, 1)).toEqual({ type: "fill", store: "fresh", full: true });
    touch("Showered");
    await waitFor(() => expect(log).toHaveBeenCalledTimes(3));
    expect(sent(log, 2)).toMatchObject({ type: "shower", count: 1 });
  });

  it("is logged once by a double touch, and twice by two", async () => {
    const log = draw();
    const button = screen.getByRole("button", { name: "Showered" });
    fireEvent.click(button);
    fireEvent.click(button);
    await screen.findByText("Logged: Showered");
    fireEvent.click(button);
    expect(log).toHaveBeenCalledOnce();
    vi.spyOn(performance, "now").mockReturnValue(performance.now() + 2_000);
    fireEvent.click(button);
    await waitFor(() => expect(log).toHaveBeenCalledTimes(2));
  });

  it("takes the amount of a part fill, with comma or point", async () => {
    const log = draw();
    touch("Filled Fresh water, only a part");
    const field = screen.getByLabelText(/how much; empty means to the brim \(L\)/);
    fireEvent.change(field, { target: { value: "12,5" } });
    touch("Log it");
    await waitFor(() => expect(log).toHaveBeenCalledOnce());
    expect(sent(log)).toEqual({ type: "fill", store: "fresh", full: false, amount: 12.5 });
  });

  it("asks for hours before it logs a drive", async () => {
    const log = draw();
    touch("Drove");
    expect(log).not.toHaveBeenCalled();
    fireEvent.change(screen.getByLabelText(/for how long \(h\)/), { target: { value: "2.5" } });
    touch("Log it");
    await waitFor(() => expect(sent(log)).toMatchObject({ type: "drive", hours: 2.5 }));
    await waitFor(() => expect(screen.queryByRole("button", { name: "Log it" })).toBeNull());
  });

  it("does not log what is no number, an hour that was emptied, nor a reserve of nothing", async () => {
    const log = draw();
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
    expect(log).not.toHaveBeenCalled();
  });

  it("says when it waits, and what was refused", async () => {
    const refused = new Refusal(422, "", "nothing was carried");
    draw(
      vi
        .fn()
        .mockResolvedValueOnce({ waits: true, id: await held() })
        .mockRejectedValueOnce(refused),
    );
    touch("Emptied Grey tank");
    expect(await screen.findByText("Kept on this device, waits for a signal: Emptied Grey tank")).toBeVisible();
    touch("Showered");
    expect(await screen.findByText("nothing was carried")).toBeVisible();
  });

  it("stands a refusal of an amount at its field", async () => {
    const refused = new Refusal(422, "entries[0].event.amount", "400 L is more than the 100 L that it holds", "Amount");
    draw(vi.fn().mockRejectedValue(refused));
    touch("Filled Fresh water, only a part");
    fireEvent.change(screen.getByLabelText(/how much/), { target: { value: "400" } });
    touch("Log it");
    expect(await screen.findByText(/400 L is more than/)).toBeVisible();
  });

  it("asks how often, and the water of all of them where it was measured", async () => {
    const log = draw();
    touch("Navy shower, more than one, or measured");
    fireEvent.change(screen.getByLabelText("Navy shower: how often"), { target: { value: "2" } });
    fireEvent.change(screen.getByLabelText(/^Water of all of them/), { target: { value: "13" } });
    touch("Log it");
    await waitFor(() => expect(sent(log)).toEqual({ type: "navy", store: null, full: false, count: 2, amount: 13 }));
    touch("Navy shower");
    await waitFor(() => expect(sent(log, 1)).toEqual({ type: "navy", store: null, full: false, count: 1 }));
  });

  it("keeps what is seldom done apart", () => {
    draw();
    expect(screen.getByText("Changed the filter").closest("details")).toHaveTextContent("Seldom done");
    expect(screen.getByText("Drove").closest("details")).toBeNull();
  });
});
