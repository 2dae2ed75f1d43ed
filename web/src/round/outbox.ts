import { client, Refusal, type Schemas, take } from "../api/client";

/** What was logged without a signal waits on this device, in order, with the time at which it was logged. */
export type Waiting =
  | { kind: "reading"; rig: number; body: Schemas["Typed"] }
  | { kind: "event"; rig: number; body: Schemas["EventIn"] }
  | { kind: "day"; rig: number; date: string; body: Schemas["DayIn"] };

const KEY = "lodeline-outbox";
const listeners = new Set<() => void>();
let lastRefused = "";
let sending = false;

const read = (): Waiting[] => {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? "[]") as Waiting[];
  } catch {
    return [];
  }
};

const write = (entries: Waiting[]): void => {
  localStorage.setItem(KEY, JSON.stringify(entries));
  listeners.forEach((told) => told());
};

/** Send one entry to the server. */
export const post = async (entry: Waiting): Promise<void> => {
  const path = { rig_id: String(entry.rig) };
  if (entry.kind === "reading")
    await take(client.POST("/api/rigs/{rig_id}/readings", { params: { path }, body: entry.body }));
  if (entry.kind === "event")
    await take(client.POST("/api/rigs/{rig_id}/events", { params: { path }, body: entry.body }));
  if (entry.kind === "day")
    await take(
      client.PUT("/api/rigs/{rig_id}/days/{on}", { params: { path: { ...path, on: entry.date } }, body: entry.body }),
    );
};

export const outbox = {
  subscribe: (told: () => void) => {
    listeners.add(told);
    return () => listeners.delete(told);
  },
  size: () => read().length,
  refused: () => lastRefused,
  add: (entry: Waiting) => write([...read(), entry]),
  /** Send what waits, oldest first; stops where there is still no signal. Returns whether anything was taken. */
  flush: async (): Promise<boolean> => {
    if (sending) return false;
    sending = true;
    let taken = false;
    try {
      for (let entry = read()[0]; entry; entry = read()[0]) {
        try {
          await post(entry);
          taken = true;
          lastRefused = "";
        } catch (error) {
          if (!(error instanceof Refusal) || error.status === 0 || error.status === 401 || error.status >= 500) break;
          lastRefused = `${describe(entry)}: ${error.message}`;
        }
        write(read().slice(1));
      }
    } finally {
      sending = false;
    }
    return taken;
  },
};

const describe = (entry: Waiting): string =>
  entry.kind === "reading"
    ? `${entry.body.store} ${entry.body.text}`
    : entry.kind === "event"
      ? entry.body.type
      : entry.date;
