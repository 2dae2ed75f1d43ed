import type { Schemas } from "../api/client";

/** A forecast of a water tank that held. Invented. */
export const aCase = (change: Partial<Schemas["Case"]> = {}): Schemas["Case"] => ({
  store: "fresh",
  name: "Fresh water",
  hue: "sea",
  at: { at: "2026-11-20T20:00:00+01:00", date: "2026-11-20", time: "20:00" },
  p10: 2,
  p50: 3,
  p90: 5,
  days: 4,
  held: true,
  words: "2.0 to 5.0 days, middle 3.0; the line was reached after 4.0 days; held",
  ...change,
});

/** A store's record with nothing in it yet. */
export const aStoreReview = (change: Partial<Schemas["StoreReview"]> = {}): Schemas["StoreReview"] => ({
  store: "fresh",
  name: "Fresh water",
  hue: "sea",
  shown: 0,
  decided: 0,
  held: "–",
  spread: "as it is",
  seen: [],
  dots: [],
  words: "No reading was held against a forecast yet.",
  ...change,
});
