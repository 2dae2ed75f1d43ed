import type { Schemas } from "../api/client";

/** A bank's view, invented: half full in the evening, one kettle, one generator. */
export const anEnergy = (change: Partial<Schemas["EnergyOut"]> = {}): Schemas["EnergyOut"] => ({
  revision: 3,
  banks: [{ id: "house", name: "House bank" }],
  bank: "house",
  known: true,
  headline: "Tonight's low: about 40 to 50 % at 07:00, the line is at 20 %.",
  detail: "Tomorrow it climbs to about 80 to 90 %.",
  now: { at: "2026-11-25T20:00:00+00:00", date: "2026-11-25", time: "20:00" },
  line: 0.2,
  line_words: "line 20 %",
  hours_words: "Now 50 to 60 % of capacity; low 40 to 50 % at 07:00; line at 20 %",
  level: { p10: 0.5, p50: 0.55, p90: 0.6 },
  past: [],
  hours: ["21", "22", "23"].map((hour) => ({ at: `2026-11-25T${hour}:00:00+00:00`, p10: 0.4, p50: 0.5, p90: 0.6 })),
  nights: [{ at: "2026-11-26T00:00:00+00:00", label: "Thu 26" }],
  low: { at: "2026-11-26T07:00:00+00:00", p10: 0.4, p90: 0.5, words: "low 40 to 50 %, 07:00" },
  high: null,
  days: [],
  audit: anAudit(),
  array: ["Learned from the log."],
  weak: null,
  wear: [],
  checks: [],
  appliances: [
    { id: "kettle", name: "Kettle", watts: 1500, minutes: 5, via: "inverter", surge: 1, heats: true },
    { id: "fan", name: "Fan, 12 V", watts: 25, minutes: 480, via: "dc", surge: 1, heats: false },
  ],
  starts: [{ id: "2026-11-25 21:00", name: "Wed 25 Nov, 21:00" }],
  sources: [{ id: "gen", name: "Generator, 40 A" }],
  hold_least: "2026-11-25",
  hold_usual: "2026-11-29",
  hold_most: "2026-12-08",
  cautions: ["Lodeline estimates; the person decides."],
  ...change,
});

export const anAudit = (): Schemas["AuditOut"] => ({
  lines: [
    { id: "fridge", name: "Fridge", day_wh: 200, night_wh: 240, day: "200 Wh", night: "240 Wh", whole: "440 Wh" },
    { id: "lights", name: "Lights", day_wh: 0, night_wh: 100, day: "0 Wh", night: "100 Wh", whole: "100 Wh" },
  ],
  words: "The list adds up to 540 Wh a day; the log shows about 700.",
  accept: "Accept 700 Wh a day as the list",
});

/** One past date, clear, its yield logged. */
export const aDay = (change: Partial<Schemas["EnergyDayOut"]> = {}): Schemas["EnergyDayOut"] => ({
  date: "2026-11-20",
  coming: false,
  sky: "clear",
  offered: 1200,
  offered_low: 1200,
  offered_high: 1200,
  taken: 900,
  other: 0,
  load: 700,
  load_logged: false,
  full: false,
  words: "sun offered about 1,200 Wh, taken 900 Wh, drawn about 700 Wh",
  cells: ["clear", "about 1,200 Wh", "900 Wh", "–", "–", "about 700 Wh"],
  ...change,
});
