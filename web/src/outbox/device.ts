import { type DBSchema, type IDBPDatabase, openDB } from "idb";

import type { Schemas } from "../api/client";

/** What a write is about, and what of it another write may have set: one field of a day, one entry. */
export type What = Pick<Schemas["WriteIn"], "add" | "correct" | "remove" | "day" | "plan" | "note">;

/** A write that is on this device until the server has it. It belongs to an account and a rig. */
export interface Waiting {
  id: string;
  account: string;
  rig: number;
  what: What;
  /** What the person called it, for the tray. */
  words: string;
  made_at: string;
  /** How far this device's clock was off when it was made, in ms, as far as that was known. */
  off_ms: number | null;
  saw: number | null;
  after: string[];
  state: "waiting" | "refused" | "stale";
  problem?: string;
  place?: string;
  label?: string;
  stands?: string | null;
  /** The revision of what stands there now. */
  stands_at?: number;
}

interface Kept extends DBSchema {
  waiting: { key: string; value: Waiting };
  pages: { key: string; value: { account: string; version: string; state: unknown } };
}

let opened: Promise<IDBPDatabase<Kept> | null> | null = null;

/** The device's own database; null where the browser gives none, as in some private windows. */
const database = () => {
  opened ??= openDB<Kept>("lodeline", 1, {
    upgrade(fresh) {
      fresh.createObjectStore("waiting", { keyPath: "id" });
      fresh.createObjectStore("pages", { keyPath: "account" });
    },
  }).catch(() => null);
  return opened;
};

const memory = new Map<string, Waiting>();
let refused = false;

/** What the disk answers; undefined where there is none to be had, or it refuses: it is full, or closed to this page. */
const onDisk = async <Answer>(ask: (disk: IDBPDatabase<Kept>) => Promise<Answer>): Promise<Answer | undefined> => {
  try {
    const disk = await database();
    return disk ? await ask(disk) : undefined;
  } catch {
    return undefined;
  }
};

/** Writes that wait, on disk; in memory, as long as the page is open, where the disk does not take them. */
export const device = {
  /** Whether the disk did not take what was last put here: it is gone when this page is closed. */
  refuses: (): boolean => refused,
  all: async (): Promise<Waiting[]> => [
    ...((await onDisk((disk) => disk.getAll("waiting"))) ?? []).filter((each) => !memory.has(each.id)),
    ...memory.values(),
  ],
  put: async (...writes: Waiting[]): Promise<void> => {
    const kept = await onDisk(async (disk) => {
      const change = disk.transaction("waiting", "readwrite", { durability: "strict" });
      await Promise.all([...writes.map((each) => change.store.put(each)), change.done]);
      return true;
    });
    if (writes.length > 0) refused = kept === undefined;
    writes.forEach((each) => (kept ? memory.delete(each.id) : memory.set(each.id, each)));
  },
  remove: async (...ids: string[]): Promise<void> => {
    ids.forEach((id) => memory.delete(id));
    await onDisk(async (disk) => {
      const change = disk.transaction("waiting", "readwrite");
      await Promise.all([...ids.map((id) => change.store.delete(id)), change.done]);
    });
  },
};

/** The last answers that an account saw, for when there is no signal. */
export const pages = {
  read: async (account: string, version: string): Promise<unknown> => {
    const kept = await onDisk((disk) => disk.get("pages", account));
    return kept?.version === version ? kept.state : undefined;
  },
  write: async (account: string, version: string, state: unknown): Promise<void> => {
    await onDisk((disk) => disk.put("pages", { account, version, state }));
  },
  forget: async (account: string): Promise<void> => {
    await onDisk((disk) => disk.delete("pages", account));
  },
};

/** For tests: as another start of the browser. */
export const reopened = async (): Promise<void> => {
  (await opened)?.close();
  opened = null;
  memory.clear();
  refused = false;
};
