import { describe, expect, it } from "vitest";

import { fanBand, LANE_HEIGHT, laneScale, makeStrip, pastLine, within } from "./strip";
import { aHorizon } from "./testing";

describe("the strip of days", () => {
  it("puts the ends of the first and last day on its edges", () => {
    const strip = makeStrip(aHorizon(), 840);
    expect(strip.x("2026-11-20T00:00:00+00:00")).toBe(0);
    expect(strip.x("2026-11-30T00:00:00+00:00")).toBe(840);
    expect(strip.x("2026-11-25T00:00:00+00:00")).toBe(420);
  });

  it("is the same whatever offset a time is written in", () => {
    const strip = makeStrip(aHorizon(), 840);
    expect(strip.x("2026-11-25T01:00:00+01:00")).toBe(strip.x("2026-11-25T00:00:00+00:00"));
  });

  it("keeps the day that matters on a narrow screen", () => {
    const horizon = { ...aHorizon(), mark: "2026-11-28T12:00:00+00:00" };
    const strip = makeStrip(horizon, 340);
    expect(strip.days[0]?.date).toBe("2026-11-23");
    expect(strip.x(horizon.mark)).toBeLessThan(340);
  });
});

describe("a lane", () => {
  it("draws empty at the bottom, full at the top and never outside", () => {
    const y = laneScale(100);
    expect(y(0)).toBe(LANE_HEIGHT - 7);
    expect(y(100)).toBe(7);
    expect(y(140)).toBe(y(100));
  });

  it("draws a fill as a step straight up", () => {
    const strip = makeStrip(aHorizon(), 840);
    const at = "2026-11-22T12:00:00+00:00";
    const path = pastLine(
      [
        { at, level: 20, low: 15, high: 25 },
        { at, level: 100, low: 98, high: 100 },
      ],
      strip.x,
      laneScale(100),
    );
    expect(path).toBe("M210,47L210,7");
  });

  it("spans the fan from its low to its high end", () => {
    const strip = makeStrip(aHorizon(), 840);
    const fan = [
      { at: "2026-11-25T00:00:00+00:00", p10: 50, p50: 50, p90: 50 },
      { at: "2026-11-26T00:00:00+00:00", p10: 0, p50: 50, p90: 100 },
    ];
    expect(fanBand(fan, strip.x, laneScale(100))).toBe("M420,32L504,7L504,57L420,32Z");
  });

  it("keeps one point before the strip so that the line enters from its edge", () => {
    const strip = makeStrip(aHorizon(), 840);
    const points = ["2026-11-18", "2026-11-19", "2026-11-21", "2026-12-05"].map((date) => ({
      at: `${date}T00:00:00+00:00`,
    }));
    expect(within(points, strip).map((point) => point.at.slice(0, 10))).toEqual(["2026-11-19", "2026-11-21"]);
  });
});
