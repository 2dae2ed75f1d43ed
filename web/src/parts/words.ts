import type { Schemas } from "../api/client";
import { hours24, monthFirst } from "../api/reader";

/** Dates and times as people read them. Sentences and amounts come from the server; this is typography. */

const NOON = 12;

const FAR_MS = 300 * 86_400_000;

/**
 * A date as `Thu 26 Nov`, or `Thu, Nov 26`, with its year where it is beyond ten months; the date is the rig's own, so it
 * is read without a timezone.
 */
export const dateWords = (date: string, long = false): string =>
  new Intl.DateTimeFormat(monthFirst() ? "en-US" : "en-GB", {
    weekday: long ? "long" : "short",
    day: "numeric",
    month: long ? "long" : "short",
    year: Math.abs(Date.parse(date) - Date.now()) > FAR_MS ? "numeric" : undefined,
    timeZone: "UTC",
  }).format(new Date(`${date}T12:00:00Z`));

export const weekday = (date: string): string =>
  new Intl.DateTimeFormat("en-GB", { weekday: "short", timeZone: "UTC" }).format(new Date(`${date}T12:00:00Z`));

/** A time such as `20:15`, or `8:15 pm`. */
export const timeOfDay = (time: string): string => {
  if (hours24()) return time;
  const [hour = 0, minute = "00"] = [Number(time.slice(0, 2)), time.slice(3, 5)];
  return `${hour % NOON || NOON}:${minute} ${hour < NOON ? "am" : "pm"}`;
};

export const clockWords = (at: Schemas["Moment"]): string => timeOfDay(at.time);

/** The time of day of an instant on this device. */
export const timeWords = (iso: string): string => {
  const at = new Date(iso);
  return timeOfDay(`${String(at.getHours()).padStart(2, "0")}:${String(at.getMinutes()).padStart(2, "0")}`);
};

/** A moment by the clock aboard, as the server tells it: `Thu 26 Nov, 20:15`. */
export const momentWords = (at: Schemas["Moment"]): string => `${dateWords(at.date)}, ${clockWords(at)}`;

/** A count with its noun: `1 entry`, `3 entries`. */
export const counted = (count: number, one: string, many: string): string => `${count} ${count === 1 ? one : many}`;

/** A moment of this device's clock, as a date and a time of day. [ms] */
export const localOf = (ms: number): { date: string; time: string } => {
  const at = new Date(ms);
  const two = (value: number) => String(value).padStart(2, "0");
  return {
    date: `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`,
    time: `${two(at.getHours())}:${two(at.getMinutes())}`,
  };
};
