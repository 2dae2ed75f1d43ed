import { type System, typedUnit } from "../notation/shown";

/** A text in a number's field that says no number, and what would be right. */
export interface Unread {
  text: string;
  problem: string;
}

/** What a number's field holds: the number, nothing, or a text that is none. */
export type Typed = number | null | Unread;

export const isUnread = (value: unknown): value is Unread =>
  typeof value === "object" && value !== null && "problem" in value;

/** What a field's number is in: its unit as it stands beside it, and whose gallon is meant. */
export interface Reads {
  unit?: string;
  system?: System;
}

const PLAIN = /^[+-]?(\d+\.?\d*|\.\d+)$/;
const TWO_WAYS = /^[+-]?[1-9]\d{0,2},\d{3}$/;
const MINUS = /[−–‒﹣－]/g;
const QUANTITY = /^([+-]?[\d.,\s'’]*\d[.,]?)\s*([a-z%°].*)$/;
const CLOCK = /^(\d{1,3}):([0-5]\d)(?:\s*h)?$/;
const HOURS_AND_MINUTES = /^(\d{1,3})\s*(?:h|hr|hrs|hours?)\s*(\d{1,2})\s*(?:m|min|mins|minutes?)?$/;
const TWELVE = /^(\d{1,2})(?::([0-5]\d))?\s*(am|pm)$/;
const MIN_PER_H = 60;
// words of time that the table of units has not, in hours
const TIMES: Record<string, number> = { hr: 1, hrs: 1, m: 1 / 60, mins: 1 / 60 };

/** What a unit is of, and how much of it one is; null where it is no unit that is known. */
const measureOf = (unit: string, system: System): { of: string; factor: number; offset: number } | null => {
  const word = unit.trim().toLowerCase();
  if (/^°?\s*c$/.test(word)) return { of: "°", factor: 1, offset: 0 };
  if (/^°?\s*f$/.test(word)) return { of: "°", factor: 5 / 9, offset: 32 };
  if (["%", "percent", "per cent", "pc"].includes(word)) return { of: "%", factor: 1, offset: 0 };
  const time = TIMES[word];
  if (time !== undefined) return { of: "h", factor: time, offset: 0 };
  const known = typedUnit(word, system);
  if (known === null) return null;
  return known.base === "min"
    ? { of: "h", factor: known.factor / MIN_PER_H, offset: 0 }
    : { of: known.base, factor: known.factor, offset: 0 };
};

/** The unit alone, of what it is a rate or a share of: "h a day" is in hours, "L/h" in litres. */
const bare = (unit: string): string => unit.split(/\/| a /)[0] ?? unit;

/** A span of time as it is said or as a clock shows it; null where it is none. [h] */
const hoursOf = (text: string): number | null => {
  const clock = CLOCK.exec(text) ?? HOURS_AND_MINUTES.exec(text);
  if (clock) return Number(clock[1]) + Number(clock[2]) / MIN_PER_H;
  const twelve = TWELVE.exec(text);
  if (!twelve) return null;
  const hour = (Number(twelve[1]) % 12) + (twelve[3] === "pm" ? 12 : 0);
  return hour + Number(twelve[2] ?? 0) / MIN_PER_H;
};

/** A number alone. A comma is a decimal comma, unless a point follows it; where it may be either, it is asked about. */
const plainNumber = (text: string): number | null | string => {
  const dense = text.replace(/[\s'’]/g, "");
  if (TWO_WAYS.test(dense)) {
    const [large, small] = [dense.replace(",", ""), String(Number(dense.replace(",", ".")))];
    return `"${text.trim()}" may be ${large} or ${small}; write it one of these ways.`;
  }
  const [comma, point] = [dense.lastIndexOf(","), dense.lastIndexOf(".")];
  const parted =
    comma < point ? dense.replaceAll(",", "") : dense.replaceAll(".", point < 0 ? "." : "").replace(",", ".");
  return PLAIN.test(parted) ? Number(parted) : null;
};

const tidy = (value: number): number => Number(value.toPrecision(12));

/**
 * Understand a number as people write it into a field; an empty field says none. Spaces may part thousands. A unit may
 * stand after it: one of another size is converted, one of another kind is refused. Hours are also understood as a
 * clock shows them ("1:20") and as they are said ("1 h 20", "45 min").
 */
export const typedNumber = (text: string, { unit = "", system = "metric" }: Reads = {}): Typed => {
  const plain = text.trim().replace(MINUS, "-");
  if (plain === "") return null;
  const alone = plainNumber(plain);
  if (typeof alone === "number") return alone;
  if (typeof alone === "string") return { text, problem: alone };
  const wanted = unit ? measureOf(bare(unit), system) : null;
  const lower = plain.toLowerCase();
  const hours = wanted?.of === "h" ? hoursOf(lower) : null;
  if (wanted && hours !== null) return tidy(hours / wanted.factor);
  const such = unit ? `write one such as 12.5, or 12.5 ${bare(unit)}.` : "write one such as 12.5.";
  const none = { text, problem: `"${text.trim()}" is not a number; ${such}` };
  const parts = QUANTITY.exec(lower);
  const value = parts ? plainNumber(parts[1] ?? "") : null;
  if (typeof value === "string") return { text, problem: value };
  if (typeof value !== "number" || parts === null) return none;
  const said = (parts[2] ?? "").trim();
  if (unit && said === unit.toLowerCase()) return value;
  const given = measureOf(said, system);
  if (wanted === null || given === null) return none;
  if (given.of !== wanted.of)
    return { text, problem: `"${text.trim()}" is not in ${bare(unit)}, which is asked here.` };
  const base = (value - given.offset) * given.factor;
  return tidy(base / wanted.factor + wanted.offset);
};
