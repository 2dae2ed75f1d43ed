import type { Schemas } from "../api/client";

export type RigDoc = Schemas["RigDoc"];
export type StoreDoc = RigDoc["stores"][number];
export type Units = Schemas["RigOut"]["units"];

/** The base unit of a store's contents, as the file has it. */
export const baseUnit = (store: StoreDoc): string =>
  ({ battery: "Ah", gas: "kg", solids: "uses", supply: store.unit ?? "units" })[store.kind as string] ?? "L";

export interface Shown {
  unit: string;
  show: (base: number | null | undefined) => number | null;
  keep: (shown: number | null) => number | null;
}

/** Between base units and those the rig's people think in; the factors come from the server. */
export const shownIn = (base: string, units: Units): Shown => {
  const found = units[base];
  if (!found) return { unit: base, show: (value) => value ?? null, keep: (value) => value };
  return {
    unit: found.unit,
    show: (value) => (value === null || value === undefined ? null : value * found.factor + found.offset),
    keep: (value) => (value === null ? null : (value - found.offset) / found.factor),
  };
};

export const KINDS = [
  ["battery", "battery bank"],
  ["fresh", "fresh water"],
  ["grey", "grey water"],
  ["black", "black tank"],
  ["cassette", "cassette"],
  ["urine", "urine bottle"],
  ["solids", "solids bin"],
  ["gas", "gas"],
  ["fuel", "fuel"],
  ["supply", "another supply"],
] as const;

/** An id that is not taken: the word, or the word with a number. */
export const freshId = (word: string, taken: readonly string[]): string => {
  let id = word;
  for (let number = 2; taken.includes(id); number += 1) id = `${word}-${number}`;
  return id;
};

export const newStore = (kind: StoreDoc["kind"], taken: readonly string[]): StoreDoc => {
  const name = KINDS.find(([each]) => each === kind)?.[1] ?? kind;
  const store = { id: freshId(kind, taken), kind, name: name.charAt(0).toUpperCase() + name.slice(1) };
  if (kind === "battery") return { ...store, capacity: 100, nominal_v: 12.8, chemistry: "lfp" };
  if (kind === "supply") return { ...store, capacity: 10, unit: "days of food", sense: "drains" };
  return { ...store, capacity: kind === "solids" ? 70 : kind === "gas" ? 9 : 50 };
};
