import type { Schemas } from "../api/client";

export const aBalance = (change: Partial<Schemas["BalanceOut"]> = {}): Schemas["BalanceOut"] => ({
  id: "week",
  name: "The last week",
  drawn: 100,
  drawn_sd: 6,
  drawn_words: "100 L, give or take 6 L",
  flows: [
    { id: "grey-grey", name: "into Grey tank", value: 60, sd: 8, words: "60 L, give or take 8 L" },
    { id: "drunk-", name: "drunk, cooked and given to animals", value: 25, sd: 5, words: "25 L, give or take 5 L" },
  ],
  apart_words: "left over: 15 L, give or take 11 L",
  closes: true,
  moved: "Meanwhile filled: 120 L; waste water emptied: 55 L.",
  closes_words: "The sums close within their error.",
  words: "In 7 days: 100 L drawn; 60 L into Grey tank and 25 L drunk.",
  ...change,
});

export const aRation = (change: Partial<Schemas["RationOut"]> = {}): Schemas["RationOut"] => ({
  until: "2026-11-29",
  sure: 0.9,
  kept: false,
  headline: "To last until the morning of Sunday 29 November, nine times in ten: 14 L a day, in place of 20 L.",
  binds: "Grey tank sets it: it is full first.",
  left: "Left of today's ration: 6 L of 14 L.",
  floor: null,
  allows: ["Dishes, wiped first or on paper, about 2.5 L: once a day", "Navy shower, about 7 L: one each on Thursday"],
  enough: false,
  path: [
    { at: "2026-11-25T20:00:00+00:00", level: 60 },
    { at: "2026-11-26T00:00:00+00:00", level: 54 },
    { at: "2026-11-27T00:00:00+00:00", level: 40 },
    { at: "2026-11-28T00:00:00+00:00", level: 26 },
  ],
  ...change,
});

const aUse = (id: string, change: Partial<Schemas["UseOut"]> = {}): Schemas["UseOut"] => ({
  id,
  name: id,
  often: "once a day",
  each: "3.1 to 5.2 L",
  day: "3.5 to 5.6 L",
  told: "learned from the log",
  learned: true,
  p10: 3.5,
  p50: 4.4,
  p90: 5.6,
  ...change,
});

const aHabit = (activity: Schemas["HabitDoc"]["activity"], per_day: number): Schemas["HabitOut"] => ({
  name: activity,
  usual: "5.0 L",
  said: per_day > 0,
  doc: { activity, per_day, each_l: null, not_on: null },
});

/** A water view, invented: 60 L of 120, grey full first, a cassette and two jugs. */
export const aWater = (change: Partial<Schemas["WaterOut"]> = {}): Schemas["WaterOut"] => ({
  revision: 3,
  known: true,
  now: { at: "2026-11-25T20:00:00+00:00", date: "2026-11-25", time: "20:00" },
  unit: "L",
  headline: "Water for about 4 days, or 6 days with navy showers; Grey tank is full first, Sunday night.",
  detail: "Fresh water: 55 to 65 L.",
  today: "Today so far about 8 L; a usual day takes 20 L.",
  binding: "Grey tank comes first.",
  after: null,
  drained: null,
  balances: [aBalance({ id: "day", name: "The last day", drawn: 20, words: "In 1 day: 20 L drawn." }), aBalance()],
  uses: [aUse("Dishes"), aUse("Drinking", { each: "–", told: "not logged by itself", learned: false })],
  uses_words: "By what you said of your habits.",
  cannot_tell: "Cleaning cannot be told apart from other use yet: log it on some days.",
  floors: "Published floors.",
  hot: null,
  ration: null,
  ration_least: "2026-11-26",
  ration_usual: "2026-11-29",
  ration_most: "2026-12-23",
  fresh: {
    capacity: 120,
    line: 6,
    fan: [
      { at: "2026-11-25T20:00:00+00:00", p10: 55, p50: 60, p90: 65 },
      { at: "2026-11-28T00:00:00+00:00", p10: 5, p50: 15, p90: 25 },
    ],
  },
  temp_unit: "°C",
  jugs: [{ id: "jug-1", words: "Jug 1: full, 10 L", share: 1 }],
  jugs_words: "Carried apart: 10 L, not counted in the days left.",
  filling: ["To fill Fresh water: 60 L."],
  toilets: [{ store: "cassette", name: "Cassette", words: "Cassette: good for about 9 more uses.", guest: null }],
  fouled: [],
  emptied_where: "What may be emptied where is a matter of local rules.",
  due: [
    { id: "filter", words: "Filter: due now.", due: true, event: "filter", did: "Changed the filter" },
    { id: "stood", words: "The water has stood 3 days.", due: false, event: null, did: null },
  ],
  frost: [],
  may_drain: true,
  supplies: [],
  weeks: [
    { label: "2026-11-09", short: "9 Nov", value: 12, words: "week of Mon 9 Nov: 12 L a person a day" },
    { label: "2026-11-16", short: "16 Nov", value: 10, words: "week of Mon 16 Nov: 10 L a person a day" },
  ],
  months: [{ label: "2026-11-01", short: "Nov", value: 11, words: "November 2026: 11 L a person a day" }],
  trend: "10 L a person a day in the last full week: 17 % less.",
  habits: [aHabit("dishes", 1.5), aHabit("navy", 0.5), aHabit("laundry", 0)],
  cautions: ["Lodeline estimates; the person decides."],
  ...change,
});
