import * as z from "zod/mini";

import { isUnread, type Typed, type Unread } from "./typed";

export { z };

/** How base units are shown: shown = base * factor + offset. */
export type Units = Readonly<Record<string, { unit: string; factor: number; offset: number }>>;

interface Range {
  least?: number;
  over?: number;
  most?: number;
  under?: number;
  whole?: boolean;
  /** Whether a text that says no such number says something else that is wanted. */
  or?: (text: Unread) => boolean;
  /** What the ends are shown in. */
  shown?: Units[string];
}

const FINE = 1e6;
const TENTHS = 10;

/** The end of a range, rounded to the side that will be taken where it is shown in another unit. */
const says = (end: number, shown: Units[string] | undefined, inward: (value: number) => number): string => {
  if (!shown) return end.toLocaleString("en", { maximumFractionDigits: 6 });
  const value = Math.round((end * shown.factor + shown.offset) * FINE) / FINE;
  return `${(inward(value * TENTHS) / TENTHS).toLocaleString("en")} ${shown.unit}`;
};

/** Why a number is none that is wanted; null where it is. */
const outside = (value: number, { least, over, most, under, whole, shown }: Range): string | null => {
  if (whole && !Number.isInteger(value)) return "Write a whole number.";
  if (over !== undefined && value <= over) return `Write a number greater than ${says(over, shown, Math.ceil)}.`;
  if (least !== undefined && value < least) return `Write a number of at least ${says(least, shown, Math.ceil)}.`;
  if (under !== undefined && value >= under) return `Write a number less than ${says(under, shown, Math.floor)}.`;
  if (most !== undefined && value > most) return `Write a number of at most ${says(most, shown, Math.floor)}.`;
  return null;
};

export const MISSING = "Write a number here; it was left empty.";

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

/** What a field of the document is, as the server's models have it. */
type Node =
  | {
      readonly is: "number";
      readonly least?: number;
      readonly over?: number;
      readonly most?: number;
      readonly under?: number;
      readonly whole?: boolean;
      readonly unit?: string;
      readonly none?: boolean;
      readonly free?: boolean;
    }
  | {
      readonly is: "text";
      readonly most: number;
      readonly least?: number;
      readonly none?: boolean;
      readonly free?: boolean;
    }
  | { readonly is: "list"; readonly of: Node; readonly none?: boolean; readonly free?: boolean }
  | {
      readonly is: "part";
      readonly of: Readonly<Record<string, Node>>;
      readonly none?: boolean;
      readonly free?: boolean;
    };

const bare = (node: Node, units: Units): z.ZodMiniType => {
  switch (node.is) {
    case "number":
      return number({ ...node, shown: node.unit ? units[node.unit] : undefined }, !node.none);
    case "text":
      return node.least
        ? text(node.most)
        : z.string().check(z.maxLength(node.most, `Write at most ${node.most} letters.`));
    case "list":
      // a list of numbers is one field, which says itself what is wrong with it
      return node.of.is === "number" ? z.any() : z.array(schemaOf(node.of, units));
    case "part":
      return z.looseObject(
        Object.fromEntries(Object.entries(node.of).map(([name, field]) => [name, schemaOf(field, units)])),
      );
  }
};

/** The schema of a part of the document. What is out of range is said in the units that are shown. */
export const schemaOf = (node: Node, units: Units = {}): z.ZodMiniType => {
  const held = node.none && node.is !== "number" ? z.nullable(bare(node, units)) : bare(node, units);
  return node.free ? z.optional(held) : held;
};
