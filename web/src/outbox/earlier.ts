import type { Schemas } from "../api/client";
import { small } from "../api/small";
import type { What } from "./device";

const KEY = "lodeline-outbox";

/** What earlier versions left waiting, in two shapes; they knew no account. */
interface Early {
  kind?: string;
  rig: number;
  date?: string;
  entry?: Schemas["EntryIn"] & { at?: string };
  facts?: Schemas["DayIn"];
  body?: Record<string, unknown> & { at?: string };
}

interface Renewed {
  rig: number;
  what: What;
  made_at: string | null;
}

const renewed = ({ kind, rig, date, entry, facts, body }: Early): Renewed => {
  const { at: bodyAt, ...said } = body ?? {};
  const { at: entryAt, ...added } = entry ?? {};
  const made_at = entryAt ?? bodyAt ?? null;
  if (date) return { rig, made_at, what: { day: { on: date, facts: facts ?? (said as Schemas["DayIn"]) } } };
  if (entry) return { rig, made_at, what: { add: added } };
  const add = kind === "reading" ? { reading: said } : { event: said };
  return { rig, made_at, what: { add: add as Schemas["EntryIn"] } };
};

/** Take over what an earlier version of this program left on this device, once. */
export const takeEarlier = (): Renewed[] => {
  const kept = small.get(KEY);
  if (kept === null) return [];
  try {
    return (JSON.parse(kept) as Early[]).map(renewed);
  } catch {
    return [];
  }
};

export const forgetEarlier = (): void => small.remove(KEY);
