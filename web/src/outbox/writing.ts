import { useCallback, useSyncExternalStore } from "react";

import { Refusal, type Schemas } from "../api/client";
import { line } from "../api/line";
import { useMe } from "../api/rig";
import type { Waiting, What } from "./device";
import { outbox } from "./outbox";

/** What came of a write, under its receipt: it waits on this device, or it is kept, with what was understood. */
export type Logged = { id: string } & ({ waits: true } | { waits: false; entry: Schemas["EntryOut"] | null });

interface Written {
  what: What;
  /** What the person would call it. */
  words: string;
  /** The revision that they looked at; not for a new entry. */
  saw?: number;
  /** Writes of this device that stood on the screen too. */
  after?: string[];
}

export type Write = (written: Written) => Promise<Logged>;

const STALE = "Somebody else changed it meanwhile; choose above which stands. There now:";
/** A hand does not wait longer than this for a line that hangs. */
const A_WHILE_MS = 2_000;

/** Write something of a rig. It is safe on this device first; the answer says whether the server has it already. */
export const useWrite = (rig: number): Write => {
  const account = useMe().username ?? "";
  return useCallback(
    (written) =>
      new Promise<Logged>((done, failed) => {
        let waited = false;
        const wait = (id: string) => {
          waited = true;
          done({ waits: true, id });
        };
        void outbox
          .add({ account, rig, ...written }, (outcome) => {
            if (outcome.state === "kept") return done({ id: outcome.id, waits: false, entry: outcome.entry ?? null });
            // whoever still stands before it mends it there; nobody has to find it in the tray
            if (!waited && outcome.state === "refused") void outbox.discard(outcome.id);
            const words = outcome.state === "stale" ? `${STALE} ${outcome.stands ?? ""}` : outcome.problem;
            failed(new Refusal(outcome.state === "stale" ? 409 : 422, outcome.place, words.trim(), outcome.label));
          })
          .then((id) => {
            if (line.isUp()) setTimeout(wait, A_WHILE_MS, id);
            else wait(id);
          })
          .catch((error: unknown) => failed(error instanceof Error ? error : new Error(String(error))));
      }),
    [account, rig],
  );
};

/** What an entry that was made here is by now: on its way, not taken, or where it belongs. */
export const useCameOf = (id: string): "waits" | "refused" | "kept" => {
  const mine = useWaiting().find((each) => each.id === id);
  if (mine === undefined) return "kept";
  return mine.state === "waiting" ? "waits" : "refused";
};

export const CAME = {
  waits: "Kept on this device, waits for a signal",
  refused: "Not taken, see above",
} as const;

/** Everything that is on this device and not on the server: of this rig and of others. */
export const useWaiting = (): readonly Waiting[] => useSyncExternalStore(outbox.subscribe, outbox.all);
