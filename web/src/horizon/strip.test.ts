import { describe, expect, it } from "vitest";

import { aHorizon } from "../testing/horizon";
import { makeStrip } from "./strip";

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
    const horizon = aHorizon();
    const strip = makeStrip(horizon, 340);
    expect(strip.days[0]?.date).toBe("2026-11-24");
    expect(strip.x(horizon.first_at ?? "")).toBeLessThan(340);
  });
});
