import * as z from "zod/mini";

import { isUnread, type Typed, type Unread } from "./typed";

export { z };

interface Range {
  least?: number;
  over?: number;
  most?: number;
  under?: number;
  whole?: boolean;
  /** Whether a text that says no such number says something else that is wanted. */
  or?: (text: Unread) => boolean;
}

const says = (value: number): string => value.toLocaleString("en", { maximumFractionDigits: 6 });

/** Why a number is none that is wanted; null where it is. */
const outside = (value: number, { least, over, most, under, whole }: Range): string | null => {
  if (whole && !Number.isInteger(value)) return "Write a whole number.";
  if (over !== undefined && value <= over) return `Write a number greater than ${says(over)}.`;
  if (least !== undefined && value < least) return `Write a number of at least ${says(least)}.`;
  if (under !== undefined && value >= under) return `Write a number less than ${says(under)}.`;
  if (most !== undefined && value > most) return `Write a number of at most ${says(most)}.`;
  return null;
};

const MISSING = "Write a number here; it was left empty.";

const problemOf = (value: unknown, range: Range, isNeeded: boolean): string | null => {
  if (isUnread(value)) return range.or?.(value) ? null : value.problem;
  if (typeof value === "number") return outside(value, range);
  return isNeeded ? MISSING : null;
};

const number = <T>(range: Range, isNeeded: boolean) =>
  z.custom<T>().check((context) => {
    const problem = problemOf(context.value, range, isNeeded);
    if (problem !== null) context.issues.push({ code: "custom", message: problem, input: context.value });
  });

/** A number that must be given. An emptied field is missing; it is never given a number again without a word. */
export const needed = (range: Range = {}) => number<Typed>(range, true);

/** A number that may be left out. */
export const optional = (range: Range = {}) => z.optional(number<Typed | undefined>(range, false));

/** A text that must say something. */
export const text = (most = 120) =>
  z
    .string()
    .check(z.trim(), z.minLength(1, "Write something here."), z.maxLength(most, `Write at most ${most} letters.`));

/** The number of a field that was checked. */
export const given = (value: Typed | undefined): number | null => (typeof value === "number" ? value : null);
