import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { show } from "../app/testing";
import { Acts } from "./Acts";

const act = (label: string, type: string, store: string | null, needs: string | null, unit: string | null = null) => ({
  label,
  type,
  store,
  needs,
  unit,
});

const ACTS = [
  act("Filled Fresh water", "fill", "fresh", "amount", "L"),
  act("Emptied Grey tank", "dump", "grey", null),
  act("Drove", "drive", null, "hours", "h"),
  act("Showered", "shower", null, "count"),
  act("Poured the jug in", "move", "fresh", "amount", "L"),
];

const draw = (log = vi.fn().mockResolvedValue("kept")) => {
  show(<Acts rig={7} acts={ACTS} log={log} />);
  return log;
};

const sent = (log: ReturnType<typeof vi.fn>, at = 0) => (log.mock.calls[at]?.[0] as { body: unknown }).body;

describe("what was done today", () => {
  it("is logged by one touch where nothing need be asked", async () => {
    const log = draw();
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    expect(await screen.findByText("Logged: Emptied Grey tank")).toBeVisible();
    expect(sent(log)).toEqual({ type: "dump", store: "grey", full: false });
    fireEvent.click(screen.getByRole("button", { name: "Filled Fresh water" }));
    await waitFor(() => expect(log).toHaveBeenCalledTimes(2));
    expect(sent(log, 1)).toEqual({ type: "fill", store: "fresh", full: true });
    fireEvent.click(screen.getByRole("button", { name: "Showered" }));
    await waitFor(() => expect(log).toHaveBeenCalledTimes(3));
    expect(sent(log, 2)).toMatchObject({ type: "shower", count: 1 });
  });

  it("takes the amount of a part fill, with comma or point", async () => {
    const log = draw();
    fireEvent.click(screen.getByRole("button", { name: "Filled Fresh water, only a part" }));
    const field = screen.getByLabelText(/how much; empty means to the brim \(L\)/);
    fireEvent.change(field, { target: { value: "12,5" } });
    fireEvent.keyDown(field, { key: "Enter" });
    await waitFor(() => expect(log).toHaveBeenCalledOnce());
    expect(sent(log)).toEqual({ type: "fill", store: "fresh", full: false, amount: 12.5 });
  });

  it("asks for hours before it logs a drive", async () => {
    const log = draw();
    fireEvent.click(screen.getByRole("button", { name: "Drove" }));
    expect(log).not.toHaveBeenCalled();
    fireEvent.change(screen.getByLabelText(/For how long \(h\)/), { target: { value: "2.5" } });
    fireEvent.click(screen.getByRole("button", { name: "Log it" }));
    await waitFor(() => expect(sent(log)).toMatchObject({ type: "drive", hours: 2.5 }));
    await waitFor(() => expect(screen.queryByRole("button", { name: "Log it" })).toBeNull());
  });

  it("does not log what is no number, nor a jug of nothing", () => {
    const log = draw();
    fireEvent.click(screen.getByRole("button", { name: "Drove" }));
    fireEvent.change(screen.getByLabelText(/For how long/), { target: { value: "-2" } });
    expect(screen.getByText(/Write a number greater than 0/)).toBeVisible();
    expect(screen.getByRole("button", { name: "Log it" })).toBeDisabled();
    fireEvent.click(screen.getByRole("button", { name: "Poured the jug in" }));
    expect(screen.getByRole("button", { name: "Log it" })).toBeDisabled();
    fireEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(log).not.toHaveBeenCalled();
  });

  it("says when it waits, and what was refused", async () => {
    draw(vi.fn().mockResolvedValueOnce("waits").mockRejectedValueOnce(new Error("nothing was carried")));
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    expect(await screen.findByText("Waits for a signal: Emptied Grey tank")).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: "Emptied Grey tank" }));
    expect(await screen.findByText("nothing was carried")).toBeVisible();
  });
});
