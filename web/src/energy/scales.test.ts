import { describe, expect, it } from "vitest";

import { dayScale, dayWords, hourScales, nights, spanWords } from "./scales";
import { aDay } from "./testing";

describe("the ledger of a day", () => {
  it("stands what came in on one line and hangs what was drawn from it, on one scale", () => {
    const scale = dayScale([aDay(), aDay({ offered_high: 2000, load: 1000 })], 150);
    expect(scale.zero).toBe(100);
    expect(scale.of(2000)).toBe(100);
    expect(scale.zero + scale.of(1000)).toBe(150);
  });

  it("makes room for a day that was charged otherwise by more than the sun could", () => {
    const scale = dayScale([aDay({ taken: 500, other: 2500, load: 1000 })], 100);
    expect(scale.of(3000)).toBe(75);
  });

  it("says what was logged, what is only known as a bound, and what is learned", () => {
    expect(dayWords(aDay({ full: true }))).toBe(
      "sun offered about 1,200 Wh, taken 900 Wh, the bank was full, drawn about 700 Wh",
    );
    expect(dayWords(aDay({ taken: null, load_logged: true }))).toContain("yield not logged, drawn 700 Wh");
    expect(dayWords(aDay({ coming: true, offered_low: 300, offered_high: 1300 }))).toContain("sun 300 to 1,300 Wh");
  });
});

describe("the hours", () => {
  it("put a share of capacity between top and bottom and never outside", () => {
    const { x, y } = hourScales(0, 3_600_000, 100, 10, 110);
    expect(x(new Date(1_800_000).toISOString())).toBe(50);
    expect([y(0), y(0.5), y(1), y(1.2)]).toEqual([110, 60, 10, 10]);
  });

  it("find the midnights by the rig's own clock", () => {
    const hour = (at: string) => ({ at, p10: 0, p50: 0, p90: 0 });
    expect(nights([hour("2026-11-25T23:00:00+01:00"), hour("2026-11-26T00:00:00+01:00")])).toEqual([
      "2026-11-26T00:00:00+01:00",
    ]);
  });

  it("are one number where the range is narrower than a point", () => {
    expect(spanWords({ p10: 0.621, p90: 0.7 })).toBe("62 to 70 %");
    expect(spanWords({ p10: 0.999, p90: 1 })).toBe("100 %");
  });
});
