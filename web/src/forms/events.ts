import { CATALOGUE } from "../api/catalogue";
import type { Schemas } from "../api/client";

type Act = Schemas["ActOut"];
type Event = Schemas["EventIn"];

/** What an act can be logged with by one touch; null where something must be asked first. */
export const oneTouch = (act: Act): Event | null => {
  if (act.asks === "hours" || act.needs_amount) return null;
  return eventOf(act, act.asks === "count" ? 1 : null);
};

/** Whether an act may be of a part only, so that an amount can be said. */
export const mayBePart = (act: Act): boolean => act.asks === "amount" && !act.needs_amount;

/** An act with what was typed for it, and the water of all of them where it was measured. No amount is to the brim. */
export const eventOf = (act: Act, typed: number | null, measured: number | null = null): Event => {
  const ends = act.source || act.target ? { source: act.source, target: act.target } : {};
  const event: Event = { type: act.type, store: act.store, full: false, ...ends };
  switch (act.asks) {
    case "hours":
      return { ...event, hours: typed };
    case "count":
      return measured === null ? { ...event, count: typed } : { ...event, count: typed, amount: measured };
    case "amount":
      // all of it: what is known to be there, else to the brim
      return typed !== null ? { ...event, amount: typed } : wholeOf(act, event);
    default:
      return act.whole === null || act.whole === undefined ? event : wholeOf(act, event);
  }
};

const wholeOf = (act: Act, event: Event): Event =>
  typeof act.whole === "number" ? { ...event, amount: act.whole } : { ...event, full: true };

const EFFECTS = new Map<string, string>(CATALOGUE.eventTypes.map((row) => [row.id, row.effect]));

const VALUES = ["amount", "hours", "distance", "count"] as const;
export type Value = (typeof VALUES)[number];

/** The numbers of an event that can be corrected; a fill to the brim may become a measured one. */
export const valuesOf = (event: Event): Value[] => {
  const there = VALUES.filter((name) => event[name] !== null && event[name] !== undefined);
  return event.full && !there.includes("amount") ? ["amount", ...there] : there;
};

/** Whether an act of an amount may also say that it is full then. */
export const mayBeFull = (act: Act): boolean => EFFECTS.get(act.type) === "fill";

/** Whether a number may be left out: a fill that has none was to the brim. */
export const mayBeLeftOut = (event: Event, name: Value): boolean =>
  name === "distance" || (name === "amount" && EFFECTS.get(event.type) === "fill");

/** An event with other numbers. */
export const corrected = (event: Event, values: Partial<Record<Value, number | null>>): Event => {
  const next = { ...event, ...values };
  // with its amount a fill may have been to the brim, too; without one it was
  const was = Boolean(event.full) && typeof event.amount === "number" && typeof next.amount === "number";
  return { ...next, full: was || ("amount" in values && values.amount === null) };
};
