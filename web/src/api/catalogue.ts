import { CATALOGUE } from "./catalogue.generated";
import type { Schemas } from "./client";

export { CATALOGUE };

type StoreKind = (typeof CATALOGUE.storeKinds)[number];
export type Choice = readonly [string, string];
export type Choices = readonly Choice[];

/** A list of the catalogue as a choice offers it. */
export const choices = (rows: readonly { id: string; name: string }[]): Choices =>
  rows.map((row) => [row.id, row.name]);

/** The catalogue's row of a store's kind. */
export const kindOf = (kind: Schemas["StoreDoc"]["kind"]): StoreKind =>
  CATALOGUE.storeKinds.find((row) => row.id === kind) ?? CATALOGUE.storeKinds[0];

/** What stands beside a field: the last word of its path, as the server names it in a refusal. */
export const labelOf = (path: string): string => {
  const word = path.split(".").at(-1) ?? path;
  return (CATALOGUE.labels as Record<string, string>)[word] ?? word;
};
