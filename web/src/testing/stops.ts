import type { Schemas } from "../api/client";

const moment = (date: string, time: string): Schemas["Moment"] => ({ at: `${date}T${time}:00+00:00`, date, time });

export const aStop = (): Schemas["StopOut"] => ({
  place: "quarry-tap",
  name: "Quarry tap",
  leave: moment("2026-11-26", "09:30"),
  arrive: moment("2026-11-26", "10:00"),
  words: "Thursday: leave at 09:30 for Quarry tap, there at 10:00 for 40 min.",
  does: "Fill Fresh water",
  why: "Fresh water would run out on Friday.",
  minutes: 40,
  acts: [],
  fixed: false,
  plug: false,
  closed: null,
  ticket: null,
});

export const aSpot = (): Schemas["SpotOut"] => ({
  id: "quarry-tap",
  name: "Quarry tap",
  lat: 54,
  lon: -2,
  way: 13,
  bearing: 0,
  words: "13 km north",
  offers: [{ id: "water", words: "water", matters: true }],
  opening: "Always open.",
  limits: [],
  lets_in: null,
  fits: true,
  age: null,
  notes: [],
  visits: [],
});

export const aBook = (spots: Schemas["SpotOut"][]): Schemas["BookOut"] => ({
  revision: 3,
  now: moment("2026-11-25", "20:40"),
  here: { name: "Here", lat: 53.91, lon: -2 },
  here_words: "Here",
  unit: "km",
  units: "km",
  spots,
  range: null,
  rings: [
    { words: "10 km", way: 10 },
    { words: "20 km", way: 20 },
  ],
  offered: [],
  services: [],
  needs: ["water"],
});

const aTask = (id: string, event: Schemas["EventIn"] | null, unit: string | null): Schemas["TaskOut"] => ({
  id,
  kind: id,
  at: "Quarry tap",
  words: `Do ${id}`,
  beside: "",
  button: "Done",
  optional: false,
  event,
  amount: event?.amount ?? null,
  unit,
  done: null,
  done_words: null,
});

export const aTicket = (): Schemas["TicketOut"] => ({
  id: 1,
  revision: 3,
  place: "quarry-tap",
  name: "Quarry tap",
  now: moment("2026-11-25", "20:40"),
  arrive: moment("2026-11-26", "10:00"),
  opened: moment("2026-11-25", "20:40"),
  headline: "Quarry tap, Thu 26 Nov",
  sums: "40 min in all",
  weight: "",
  tasks: [
    aTask("valves", null, null),
    aTask("fill", { type: "fill", store: "fresh", full: true, amount: null } as Schemas["EventIn"], "L"),
  ],
  left: 2,
  over: false,
  cautions: [],
  changed: null,
  can_rewrite: false,
});

export const aStay = (): Schemas["StayOut"] => ({
  until: "2026-11-29",
  sure: 0.9,
  words: "As things are, 3 in 10. With these two changes, 9 in 10.",
  p_stay: 0.3,
  feasible: true,
  steps: ["navy-showers", "wipe-plates"].map((lever) => ({
    lever,
    words: `Do ${lever}`,
    sides: "spares water",
    chance: "9 in 10",
    p_stay: 0.9,
    hardship: 1,
  })),
  stop: null,
});
