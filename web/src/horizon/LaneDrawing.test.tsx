import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { levelScale } from "../charts/scales";
import { aHorizon, aLane } from "../testing/horizon";
import { show } from "../testing/testing";
import { LaneDrawing } from "./LaneDrawing";
import { LANE_HEIGHT, LANE_PAD, makeStrip } from "./strip";

const draw = (lane = aLane()) => show(<LaneDrawing lane={lane} strip={makeStrip(aHorizon(), 840)} />).container;
const parts = (container: HTMLElement, name: string) => [...container.querySelectorAll(`[data-part=${name}]`)];

describe("a lane's drawing", () => {
  it("says in words what it shows", () => {
    draw();
    expect(screen.getByRole("img")).toHaveAccessibleName(
      "Fresh water: 40 L, 8 in 10: 35 to 45 L. At its line on Saturday.",
    );
  });

  it("draws the lode line at its level across the whole strip", () => {
    const line = parts(draw(), "line")[0];
    expect(line).toHaveAttribute("y1", String(levelScale(100, LANE_HEIGHT - LANE_PAD, LANE_PAD)(10)));
    expect(line).toHaveAttribute("x2", "840");
  });

  it("draws both lines where another holds than was set up", () => {
    expect(parts(draw(), "own-line")).toHaveLength(0);
    const container = draw({ ...aLane(), line: 30, own_line: 10 });
    const [held, own] = [parts(container, "line")[0], parts(container, "own-line")[0]];
    expect(Number(held?.getAttribute("y1"))).toBeLessThan(Number(own?.getAttribute("y1")));
  });

  it("draws each reading and event that lies on the strip", () => {
    const container = draw();
    expect(parts(container, "reading")).toHaveLength(1);
    expect(parts(container, "doubtful")).toHaveLength(1);
    expect(parts(container, "event")).toHaveLength(1);
  });

  it("marks when the line may be reached", () => {
    const reach = parts(draw(), "reach")[0];
    const strip = makeStrip(aHorizon(), 840);
    expect(reach).toHaveAttribute("x1", String(strip.x("2026-11-27T12:00:00+00:00")));
    expect(reach).toHaveAttribute("x2", String(strip.x("2026-11-29T12:00:00+00:00")));
  });

  it("draws nothing that is not known", () => {
    const container = draw({ ...aLane(), known: false });
    expect(parts(container, "fan")).toHaveLength(0);
    expect(screen.getByText(/Not known yet/)).toBeInTheDocument();
  });

  it("draws the path of a ration beside what is expected, where one is kept", () => {
    expect(parts(draw(), "ration")).toHaveLength(0);
    const ration = [
      { at: "2026-11-25T20:00:00+00:00", level: 40 },
      { at: "2026-11-27T00:00:00+00:00", level: 30 },
    ];
    const path = parts(draw({ ...aLane(), ration }), "ration")[0];
    const strip = makeStrip(aHorizon(), 840);
    expect(path?.getAttribute("d")).toContain(`L${strip.x("2026-11-27T00:00:00+00:00")}`);
  });

  it("says that a tank was drained, and does not ask for a reading", () => {
    draw({ ...aLane(), known: false, drained: "Drained: nothing is asked. Drained Wed 25 Nov." });
    expect(screen.getByText(/Drained Wed 25 Nov/)).toBeInTheDocument();
    expect(screen.queryByText(/take a reading/)).toBeNull();
  });
});
