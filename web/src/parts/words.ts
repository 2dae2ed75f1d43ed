import type { Schemas } from "../api/client";

/** Dates as people read them. Sentences and amounts come from the server; this is typography. */

/** A date as `Thu 26 Nov`; the date is the rig's own, so it is read without a timezone. */
export const dateWords = (date: string, long = false): string =>
  new Intl.DateTimeFormat("en-GB", {
    weekday: long ? "long" : "short",
    day: "numeric",
    month: long ? "long" : "short",
    timeZone: "UTC",
  }).format(new Date(`${date}T12:00:00Z`));

export const weekday = (date: string): string =>
  new Intl.DateTimeFormat("en-GB", { weekday: "short", timeZone: "UTC" }).format(new Date(`${date}T12:00:00Z`));

/** A moment by the clock aboard, as the server tells it: `Thu 26 Nov, 20:15`. */
export const momentWords = (at: Schemas["Moment"]): string => `${dateWords(at.date)}, ${at.time}`;
