import { kindOf } from "../api/catalogue";
import type { Schemas } from "../api/client";
import type { RigDoc } from "../forms/rig";

export type List = "stores" | "solar" | "sources" | "loads" | "appliances";

/** One part of the sheet: where it stands in the document, and what it is as it was saved. */
export interface Part {
  place: string;
  list: List | null;
  index: number;
  name: string;
  words: string;
}

const NEW = "new, not saved yet";

/** The parts of a draft, each with its saved line. */
export const partsOf = (
  doc: RigDoc,
  sheet: Schemas["RigOut"]["sheet"],
): Record<"crew" | "stores" | "power", Part[]> => {
  const saved = new Map(sheet.map((line) => [line.place, line]));
  const part = (place: string, list: List | null, index: number, name: string): Part => ({
    place,
    list,
    index,
    name: name || (saved.get(place)?.name ?? place),
    words: saved.get(place)?.words ?? NEW,
  });
  const listed = (list: List, items: readonly { id: string; name?: string }[] | null | undefined) =>
    (items ?? []).map((each, index) => part(`${list}.${each.id}`, list, index, each.name ?? ""));
  return {
    crew: [part("crew", null, 0, "Crew, place and units")],
    stores: listed("stores", doc.stores),
    power: [
      ...listed("solar", doc.solar),
      ...listed("sources", doc.sources),
      ...(doc.inverter ? [part("inverter", null, 0, "Inverter")] : []),
      ...listed("loads", doc.loads),
      ...listed("appliances", doc.appliances),
    ],
  };
};

/** The part that a field of the form belongs to. */
export const partOf = (path: string, doc: RigDoc): string => {
  const [list = "", index = ""] = path.split(".");
  if (list === "inverter") return "inverter";
  const items = list in doc ? (doc as unknown as Record<string, unknown>)[list] : null;
  const item = Array.isArray(items) ? (items[Number(index)] as { id: string } | undefined) : undefined;
  return item ? `${list}.${item.id}` : "crew";
};

/** The names of the parts in which two documents differ. */
export const differing = (mine: RigDoc, theirs: RigDoc): string[] => {
  const flat = (doc: RigDoc): [string, string, unknown][] => [
    [
      "crew",
      "Crew, place and units",
      { ...doc, stores: 0, solar: 0, sources: 0, loads: 0, appliances: 0, inverter: 0 },
    ],
    ["inverter", "Inverter", doc.inverter ?? null],
    ...(["stores", "solar", "sources", "loads", "appliances"] as const).flatMap((list) =>
      (doc[list] ?? []).map((each): [string, string, unknown] => [
        `${list}.${each.id}`,
        "name" in each && each.name ? each.name : each.id,
        each,
      ]),
    ),
  ];
  const [a, b] = [flat(mine), flat(theirs)].map(
    (each) => new Map(each.map(([key, name, value]) => [key, [name, JSON.stringify(value)] as const])),
  );
  return [...new Set([...(a?.keys() ?? []), ...(b?.keys() ?? [])])]
    .filter((key) => a?.get(key)?.[1] !== b?.get(key)?.[1])
    .map((key) => a?.get(key)?.[0] ?? b?.get(key)?.[0] ?? key);
};

/** Which stores lie under the floor, as such rigs are mostly built; the others stand inside. */
const UNDER = new Set(["grey", "black", "fuel"]);
export const isUnder = (store: RigDoc["stores"][number]): boolean => UNDER.has(kindOf(store.kind).id);
