import { kindOf } from "../api/catalogue";
import type { Schemas } from "../api/client";
import type { Shown } from "./fields";
import { FIELDS } from "./fields.generated";
import type { Schema } from "./form";
import { MISSING, schemaOf } from "./schema";
import { isUnread } from "./typed";

export type RigDoc = Schemas["RigDoc"];
export type StoreDoc = RigDoc["stores"][number];
export type Units = Schemas["RigOut"]["units"];

/** The base unit of a store's contents, as the file has it. */
export const baseUnit = (store: Pick<StoreDoc, "kind" | "unit">): string =>
  kindOf(store.kind).unit ?? store.unit ?? "units";

/** Between a base unit and the one that the rig's people think in; the factors come from the server. */
export const shownIn = (base: string, units: Units): Shown => {
  const how = units[base] ?? { unit: base, factor: 1, offset: 0 };
  return {
    unit: how.unit,
    show: (value) => value * how.factor + how.offset,
    keep: (value) => (value - how.offset) / how.factor,
  };
};

/** A share as per cent. */
export const perCent = (unit = "%"): Shown => ({ unit, show: (share) => share * 100, keep: (shown) => shown / 100 });

const THOUSANDTHS = 1000;

/** A panel's mark by the amount at which it lights, for a store of some capacity. */
export const markOf = (contents: Shown, capacity: number): Shown => ({
  unit: contents.unit,
  show: (mark) => contents.show(mark * capacity),
  keep: (shown) => Math.round((contents.keep(shown) / capacity) * THOUSANDTHS) / THOUSANDTHS,
});

/** An id that is not taken: the word, or the word with a number. */
export const freshId = (word: string, taken: readonly string[]): string => {
  let id = word;
  for (let number = 2; taken.includes(id); number += 1) id = `${word}-${number}`;
  return id;
};

const MARKS = [0, 0.33, 0.67, 1];

/** A gauge of a kind, as it is until somebody says more of it. */
export const gaugeOf = (kind: string, resolution: number): StoreDoc["gauge"] => {
  if (kind === "steps") return { kind, marks: MARKS };
  if (kind === "sensor") return { kind, resolution };
  return { kind: kind as "none" };
};

/** A new store, as its kind usually is. */
export const newStore = (kind: StoreDoc["kind"], taken: readonly string[]): StoreDoc => {
  const row = kindOf(kind);
  return {
    id: freshId(kind, taken),
    kind,
    name: row.name,
    capacity: row.usualCapacity,
    gauge: gaugeOf(row.usualGauge, row.usualResolution),
    ...(row.usualServed === "here" ? { served: "here" as const } : {}),
    ...(row.isBank ? { nominal_v: 12.8, chemistry: "lfp" as const } : {}),
    ...(row.countsItself ? { unit: "days of food", sense: "drains" as const } : {}),
  };
};

/** Marks rise from 0 to 1 and are shares of full. */
const marksProblem = (marks: unknown): string | null => {
  if (isUnread(marks)) return marks.problem;
  const numbers = marks as number[];
  if (numbers.length < 2) return "Write at least two marks, such as 0, 0.5, 1.";
  if (numbers.some((mark) => mark < 0 || mark > 1)) return "Write marks between 0 and 1.";
  return numbers.every((mark, index) => index === 0 || mark > (numbers[index - 1] ?? 0))
    ? null
    : "Write marks that rise.";
};

/** Everything aboard, as far as it can be checked here; the server checks how it fits together. */
export const rigSchema = (units: Units): Schema<RigDoc> =>
  schemaOf(FIELDS.rig, units).check((context) => {
    const wrong = (path: (string | number)[], message: string | null) => {
      if (message !== null) context.issues.push({ code: "custom", path, message, input: null });
    };
    (context.value as RigDoc).stores.forEach((store, index) => {
      const { gauge } = store;
      if (gauge?.kind === "steps") wrong(["stores", index, "gauge", "marks"], marksProblem(gauge.marks));
      // what parallel strings make needs no capacity of its own
      if (store.capacity === null && !store.layout) wrong(["stores", index, "capacity"], MISSING);
    });
  }) as Schema<RigDoc>;
