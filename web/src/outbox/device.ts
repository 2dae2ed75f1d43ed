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

/** Writes that wait, on disk; in memory where there is no disk to be had. */
export const device = {
  all: async (): Promise<Waiting[]> => (await (await database())?.getAll("waiting")) ?? [...memory.values()],
  put: async (...writes: Waiting[]): Promise<void> => {
    const disk = await database();
    if (!disk) return writes.forEach((each) => memory.set(each.id, each));
    const change = disk.transaction("waiting", "readwrite", { durability: "strict" });
    await Promise.all([...writes.map((each) => change.store.put(each)), change.done]);
  },
  remove: async (...ids: string[]): Promise<void> => {
    const disk = await database();
    if (!disk) return ids.forEach((id) => memory.delete(id));
    const change = disk.transaction("waiting", "readwrite");
    await Promise.all([...ids.map((id) => change.store.delete(id)), change.done]);
  },
};

/** The last answers that an account saw, for when there is no signal. */
export const pages = {
  read: async (account: string, version: string): Promise<unknown> => {
    const kept = await (await database())?.get("pages", account);
    return kept?.version === version ? kept.state : undefined;
  },
  write: async (account: string, version: string, state: unknown): Promise<void> => {
    await (await database())?.put("pages", { account, version, state });
  },
  forget: async (account: string): Promise<void> => {
    await (await database())?.delete("pages", account);
  },
};

/** For tests: as another start of the browser. */
export const reopened = async (): Promise<void> => {
  (await opened)?.close();
  opened = null;
  memory.clear();
};
