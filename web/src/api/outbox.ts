import { client, isFinal, Refusal, type Schemas, take } from "./client";

/** What can wait on this device: an entry of the log, or a day's facts. */
export type Waiting =
  { rig: number; entry: Schemas["EntryIn"] } | { rig: number; date: string; facts: Schemas["DayIn"] };

const KEY = "lodeline-outbox";
const MOST_AT_ONCE = 100;
const listeners = new Set<() => void>();
let lastRefused = "";
let sending: Promise<boolean> | null = null;

/** What earlier versions left waiting: one body a request, its time within it. */
type Old = { kind: string; rig: number; date?: string; body: Record<string, unknown> };

const renewed = (each: Waiting | Old): Waiting => {
  if (!("kind" in each)) return each;
  const { at, ...body } = each.body;
  const time = at ? { at: String(at) } : {};
  if (each.kind === "day") return { rig: each.rig, date: each.date ?? "", facts: each.body };
  return each.kind === "reading"
    ? { rig: each.rig, entry: { reading: body as Schemas["ReadingIn"], ...time } }
    : { rig: each.rig, entry: { event: body as Schemas["EventIn"], ...time } };
};

const read = (): Waiting[] => {
  try {
    return (JSON.parse(localStorage.getItem(KEY) ?? "[]") as (Waiting | Old)[]).map(renewed);
  } catch {
    return [];
  }
};

const write = (waiting: Waiting[]): void => {
  localStorage.setItem(KEY, JSON.stringify(waiting));
  listeners.forEach((notify) => notify());
};

/** How many of the first are sent together: entries of one rig as one batch, a day's facts alone. */
export const together = (waiting: readonly Waiting[]): number => {
  const [first] = waiting;
  if (first === undefined || !("entry" in first)) return Math.min(waiting.length, 1);
  const other = waiting.findIndex((each) => !("entry" in each) || each.rig !== first.rig);
  return Math.min(other < 0 ? waiting.length : other, MOST_AT_ONCE);
};

/** Send what goes together; answers with what was logged, in order. */
export const post = async (waiting: readonly Waiting[]): Promise<(Schemas["EntryOut"] | null)[]> => {
  const [first] = waiting;
  if (first === undefined) return [];
  const path = { rig_id: String(first.rig) };
  if (!("entry" in first)) {
    const params = { path: { ...path, on: first.date } };
    await take(client.PUT("/api/rigs/{rig_id}/days/{on}", { params, body: first.facts }));
    return [null];
  }
  const entries = waiting.flatMap((each) => ("entry" in each ? [each.entry] : []));
  return (await take(client.POST("/api/rigs/{rig_id}/entries", { params: { path }, body: { entries } }))).entries;
};

/** Which of so many was refused, so that the rest can be sent without it; the first where that is not said. */
export const refusedOf = (error: unknown, count: number): number => {
  const index = error instanceof Refusal ? Number(/^entries\[(\d+)\]/.exec(error.place)?.[1] ?? 0) : 0;
  return index < count ? index : 0;
};

export const outbox = {
  subscribe: (notify: () => void) => {
    listeners.add(notify);
    return () => listeners.delete(notify);
  },
  size: () => read().length,
  refused: () => lastRefused,
  add: (...waiting: Waiting[]) => write([...read(), ...waiting]),
  /** Send what waits, oldest first; stops where there is still no signal. Answers whether anything was taken. */
  flush: (): Promise<boolean> => {
    sending ??= flushAll().finally(() => (sending = null));
    return sending;
  },
};

const flushAll = async (): Promise<boolean> => {
  let taken = false;
  for (let waiting = read(); waiting.length > 0; waiting = read()) {
    const count = together(waiting);
    try {
      await post(waiting.slice(0, count));
      write(read().slice(count));
      taken = true;
      lastRefused = "";
    } catch (error) {
      if (!isFinal(error)) break;
      const bad = refusedOf(error, count);
      lastRefused = `${describe(waiting[bad])}: ${(error as Refusal).message}`;
      write(read().filter((_, index) => index !== bad));
    }
  }
  return taken;
};

const describe = (waiting: Waiting | undefined): string => {
  if (waiting === undefined) return "";
  if (!("entry" in waiting)) return waiting.date;
  const { reading, event } = waiting.entry;
  return reading ? `${reading.store} ${reading.text}` : (event?.type ?? "");
};
