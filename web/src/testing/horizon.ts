import type { Schemas } from "../api/client";

const iso = (day: number) => `2026-11-${day}T00:00:00+00:00`;

/** Ten days, the 25th being today; one lane of water. Invented. */
export const aHorizon = (): Schemas["HorizonOut"] => ({
  rig: "Test rig",
  revision: 12,
  now: { at: "2026-11-25T20:00:00+00:00", date: "2026-11-25", time: "20:00" },
  starts_at: iso(20),
  ends_at: iso(30),
  timezone: "UTC",
  temp_unit: "°C",
  headline: "About 3 days left: Fresh water runs out first.",
  detail: "It reaches its line on Saturday.",
  first: "fresh",
  first_low_at: "2026-11-27T12:00:00+00:00",
  first_at: "2026-11-28T12:00:00+00:00",
  first_high_at: "2026-11-29T12:00:00+00:00",
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
    hours: {},
    planned: null,
    words: `${20 + index} November, ${index === 6 ? "wet" : "sky not known"}`,
    p_stay: index >= 5 ? 1 - 0.2 * (index - 5) : null,
  })),
  lanes: [aLane()],
  doubts: [],
  stop: [],
  cautions: ["Empty waste only where it is allowed."],
});

export const aLane = (): Schemas["Lane"] => ({
  id: "fresh",
  name: "Fresh water",
  hue: "sea",
  capacity: 100,
  line: 10,
  known: true,
  level: "40 L",
  span: "35 to 45 L",
  left: "Sat afternoon",
  first: "runs out first",
  p10_at: "2026-11-27T12:00:00+00:00",
  p50_at: "2026-11-28T12:00:00+00:00",
  p90_at: "2026-11-29T12:00:00+00:00",
  words: "40 L, 8 in 10: 35 to 45 L. At its line on Saturday.",
  facts: [{ name: "Expected use", value: "12 L a day net, from the log" }],
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
  events: [{ id: 3, at: "2026-11-22T12:00:00+00:00", effect: "fill", words: "Fresh water filled to the brim" }],
  fan: [
    { at: "2026-11-25T20:00:00+00:00", p10: 35, p50: 40, p90: 45 },
    { at: "2026-11-29T00:00:00+00:00", p10: 0, p50: 5, p90: 20 },
  ],
});
