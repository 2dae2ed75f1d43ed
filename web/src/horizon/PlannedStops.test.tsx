import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { aHorizon } from "../testing/horizon";
import { aStop } from "../testing/stops";
import { show } from "../testing/testing";
import { PlannedStops } from "./PlannedStops";
import { makeStrip } from "./strip";

const drawn = (stop = aStop()) => {
  const [move, ask, attempt] = [vi.fn(), vi.fn(), vi.fn()];
  const strip = makeStrip(aHorizon(), 840);
  show(<PlannedStops stops={[stop]} strip={strip} until="2026-11-28" move={move} attempt={attempt} ask={ask} />);
  return { move, ask, attempt };
};
const flag = () => screen.getByRole("button", { name: /^Quarry tap, Thu 26 Nov 10:00/ });

describe("planned stops on the strip", () => {
  it("are moved a day by the arrow keys, at the same time of day", () => {
    const { move } = drawn();
    fireEvent.keyDown(flag(), { key: "ArrowRight" });
    expect(move).toHaveBeenCalledExactlyOnceWith(aStop(), "2026-11-27T10:00:00.000Z");
  });

  it("are dragged by whole days, and not by a touch", () => {
    const { move, attempt } = drawn();
    flag().setPointerCapture = () => undefined;
    for (const [end, times] of [
      [302, 0],
      [470, 1],
    ] as const) {
      fireEvent.pointerDown(flag(), { clientX: 300, pointerId: 1 });
      fireEvent.pointerMove(flag(), { clientX: end, pointerId: 1 });
      fireEvent.pointerUp(flag(), { clientX: end, pointerId: 1 });
      expect(move).toHaveBeenCalledTimes(times);
    }
    expect(move).toHaveBeenLastCalledWith(aStop(), "2026-11-28T10:00:00.000Z");
    // what would come of it is asked on the way, and no more once it is let go
    expect(attempt.mock.calls).toContainEqual([aStop(), "2026-11-28T10:00:00.000Z"]);
    expect(attempt).toHaveBeenLastCalledWith(aStop(), null);
  });

  it("stand beside each other where they are near, so that each can be pressed", () => {
    const strip = makeStrip(aHorizon(), 840);
    const late = {
      ...aStop(),
      place: "dump",
      name: "Dump",
      arrive: { at: "2026-11-26T10:30:00+00:00", date: "2026-11-26", time: "10:30" },
    };
    show(
      <PlannedStops stops={[aStop(), late]} strip={strip} until="" move={vi.fn()} attempt={vi.fn()} ask={vi.fn()} />,
    );
    const [first, second] = screen.getAllByRole("button").map((each) => each.style);
    expect(parseFloat(first?.left ?? "") + parseFloat(first?.maxWidth ?? "")).toBeLessThanOrEqual(
      parseFloat(second?.left ?? ""),
    );
  });

  it("keep within the strip at its end", () => {
    drawn({ ...aStop(), arrive: { at: "2026-11-29T20:00:00+00:00", date: "2026-11-29", time: "20:00" } });
    const { left, maxWidth } = screen.getByRole("button", { name: /^Quarry tap, Sun 29 Nov/ }).style;
    expect(parseFloat(left) + parseFloat(maxWidth)).toBeLessThanOrEqual(840);
  });

  it("are not moved into the past", () => {
    const today = { ...aStop(), arrive: { at: "2026-11-25T18:00:00+00:00", date: "2026-11-25", time: "18:00" } };
    const { move } = drawn(today);
    const found = screen.getByRole("button", { name: /^Quarry tap, Wed 25 Nov/ });
    fireEvent.keyDown(found, { key: "ArrowLeft" });
    expect(move).not.toHaveBeenCalled();
    fireEvent.keyDown(found, { key: "ArrowRight" });
    expect(move).toHaveBeenCalledTimes(1);
  });

  it("stand beside the end of the stay, which the arrow keys move", () => {
    const { ask } = drawn();
    const end = screen.getByRole("slider", { name: "End of the stay" });
    expect(end).toHaveAttribute("aria-valuetext", expect.stringContaining("28 November"));
    fireEvent.keyDown(end, { key: "ArrowLeft" });
    expect(ask).toHaveBeenCalledWith("2026-11-27");
  });
});
