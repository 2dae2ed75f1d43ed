import type { Schemas } from "../api/client";
import type { Lane } from "./strip";

const iso = (day: number) => `2026-11-${day}T00:00:00+00:00`;

/** Ten days, the 25th being today; one lane of water. Invented. */
export const aHorizon = (): Schemas["HorizonOut"] => ({
  rig: "Test rig",
  now: "2026-11-25T20:00:00+00:00",
  starts_at: iso(20),
  ends_at: iso(30),
  timezone: "UTC",
  temp_unit: "°C",
  headline: "About 3 days left: Fresh water sends you away first.",
  detail: "It reaches its line on Saturday.",
  binds: "fresh",
  second: null,
  mark_low: "2026-11-27T12:00:00+00:00",
  mark: "2026-11-28T12:00:00+00:00",
  mark_high: "2026-11-29T12:00:00+00:00",
  days: Array.from({ length: 10 }, (_, index) => ({
    date: iso(20 + index).slice(0, 10),
    starts_at: iso(20 + index),
    ends_at: iso(21 + index),
    coming: index >= 5,
    place: null,
    sky: index === 6 ? "wet" : null,
    temp_min: null,
    temp_max: null,
    status: null,
    crew_aboard: null,
    drive_hours: null,
    shore_hours: null,
    generator_hours: null,
    p_stay: index >= 5 ? 1 - 0.2 * (index - 5) : null,
  })),
  lanes: [aLane()],
  doubts: [],
  stop: [],
});

export const aLane = (): Lane => ({
  id: "fresh",
  name: "Fresh water",
  kind: "fresh",
  sense: "drains",
  unit: "L",
  decimals: 1,
  capacity: 100,
  line: 10,
  reserve: null,
  known: true,
  assumed: false,
  level: 40,
  level_low: 35,
  level_high: 45,
  rate_per_day: 12,
  p10_at: "2026-11-27T12:00:00+00:00",
  p50_at: "2026-11-28T12:00:00+00:00",
  p90_at: "2026-11-29T12:00:00+00:00",
  p_within: 1,
  p_first: 1,
  words: "40 L, 8 in 10: 35 to 45 L. At its line on Saturday.",
  why: ["The level rests on: last filled on Sun 22 Nov."],
  past: [
    { at: "2026-11-22T12:00:00+00:00", level: 20, low: 15, high: 25 },
    { at: "2026-11-22T12:00:00+00:00", level: 100, low: 98, high: 100 },
    { at: "2026-11-25T20:00:00+00:00", level: 40, low: 35, high: 45 },
  ],
  readings: [
    { id: 1, at: "2026-11-24T20:00:00+00:00", low: 33, high: 67, words: "mark 1/3", doubtful: false },
    { id: 2, at: "2026-11-23T20:00:00+00:00", low: 5, high: 9, words: "7 %", doubtful: true },
  ],
  events: [{ id: 3, at: "2026-11-22T12:00:00+00:00", type: "fill", words: "Fresh water filled to the brim" }],
  fan: [
    { at: "2026-11-25T20:00:00+00:00", p10: 35, p50: 40, p90: 45 },
    { at: "2026-11-29T00:00:00+00:00", p10: 0, p50: 5, p90: 20 },
  ],
});
