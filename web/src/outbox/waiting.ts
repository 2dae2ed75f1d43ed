import type { Schemas } from "../api/client";
import type { Waiting } from "./device";

type Facts = Schemas["DayIn"] & { hours?: Record<string, number | null> };

/** What waits on this device of a date's facts, later ones over earlier. */
export const factsWaiting = (waiting: readonly Waiting[], rig: number, kind: "day" | "plan", on: string): Facts =>
  waiting
    .filter((each) => each.rig === rig && each.state === "waiting" && each.what[kind]?.on === on)
    .reduce<Facts>((all, each) => {
      const facts = each.what[kind]?.facts as Facts;
      return facts.hours ? { ...all, ...facts, hours: { ...all.hours, ...facts.hours } } : { ...all, ...facts };
    }, {});

type Entry = Pick<Schemas["EntryOut"], "id" | "kind">;

/** That something waits to be done to an entry, in words; null where nothing does. */
export const waitsFor = (waiting: readonly Waiting[], rig: number, entry: Entry): string | null => {
  const mine = waiting.filter((each) => {
    const ref = each.what.correct?.entry ?? each.what.remove;
    return each.rig === rig && each.state === "waiting" && ref?.id === entry.id && ref.kind === entry.kind;
  });
  if (mine.length === 0) return null;
  return mine.some((each) => each.what.remove) ? "Waits to be taken out." : "A correction waits.";
};
