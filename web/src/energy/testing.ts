import type { Energy, EnergyDay } from "./scales";

/** A bank's view, invented: half full in the evening, one kettle, one generator. */
export const anEnergy = (change: Partial<Energy> = {}): Energy => ({
  banks: [{ id: "house", name: "House bank" }],
  bank: "house",
  known: true,
  headline: "Tonight's low: about 40 to 50 % at 07:00, the line is at 20 %.",
  detail: "Tomorrow it climbs to about 80 to 90 %.",
  now: "2026-11-25T20:00:00+00:00",
  timezone: "UTC",
  capacity_ah: 200,
  volts: 12.8,
  line: 0.2,
  level: { p10: 0.5, p50: 0.55, p90: 0.6 },
  past: [],
  hours: ["21", "22", "23"].map((hour) => ({ at: `2026-11-25T${hour}:00:00+00:00`, p10: 0.4, p50: 0.5, p90: 0.6 })),
  low: { at: "2026-11-26T07:00:00+00:00", p10: 0.4, p50: 0.45, p90: 0.5 },
  high: null,
  days: [],
  audit: {
    lines: [
      { id: "lights", name: "Lights", day_wh: 0, night_wh: 100 },
      { id: "fridge", name: "Fridge", day_wh: 200, night_wh: 240 },
    ],
    listed_wh: 540,
    learned: { p10: 600, p50: 700, p90: 800 },
    assumed: false,
    differs: true,
    words: "The list adds up to 540 Wh a day; the log shows about 700.",
  },
  array: ["Found from the log."],
  weak: null,
  wear: [],
  checks: [],
  appliances: [
    { id: "kettle", name: "Kettle", watts: 1500, minutes: 5, via: "inverter", surge: 1, heats: true },
    { id: "fan", name: "Fan, 12 V", watts: 25, minutes: 480, via: "dc", surge: 1, heats: false },
  ],
  sources: [{ id: "gen", kind: "generator", amps: 40 }],
  cautions: ["Lodeline estimates; the person decides."],
  ...change,
});

/** One past date, clear, its yield logged. */
export const aDay = (change: Partial<EnergyDay> = {}): EnergyDay => ({
  date: "2026-11-20",
  coming: false,
  sky: "clear",
  offered: 1200,
  offered_low: 1200,
  offered_high: 1200,
  taken: 900,
  wasted: null,
  other: 0,
  load: 700,
  load_logged: false,
  full: false,
  ...change,
});
