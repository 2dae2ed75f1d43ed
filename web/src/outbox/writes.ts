import { useMutation } from "@tanstack/react-query";
import { useCallback } from "react";

import type { Schemas } from "../api/client";
import { dateWords } from "../parts/words";
import { useWrite } from "./writing";

type Entry = Pick<Schemas["EntryOut"], "id" | "kind" | "words" | "sent">;

const refOf = (entry: Entry): Schemas["EntryRef"] => ({ kind: entry.kind, id: entry.id });

/** Log entries at a time that is given, such as one that was forgotten. */
export const useAdd = (rig: number) => {
  const write = useWrite(rig);
  return useMutation({
    mutationFn: ({ entry, words }: { entry: Schemas["EntryIn"]; words: string }) =>
      write({ what: { add: entry }, words }),
  });
};

/** Correct an entry as it was seen; what stood before is kept. */
export const useCorrect = (rig: number, saw: number) => {
  const write = useWrite(rig);
  return useMutation({
    mutationFn: ({ entry, to }: { entry: Entry; to: Schemas["EntryIn"] }) =>
      write({
        what: { correct: { entry: refOf(entry), to } },
        words: `Correct: ${entry.words}`,
        saw,
        after: entry.sent ? [entry.sent] : [],
      }),
  });
};

/** Take an entry out as it was seen; the history keeps it. */
export const useRemove = (rig: number, saw: number) => {
  const write = useWrite(rig);
  return useMutation({
    mutationFn: (entry: Entry) =>
      write({
        what: { remove: refOf(entry) },
        words: `Remove: ${entry.words}`,
        saw,
        after: entry.sent ? [entry.sent] : [],
      }),
  });
};

/**
 * Take back what this device logged, by its receipt: right whether it waits here, is on its way, or is in the log. It is
 * taken out after it was sent, never dropped, as it may be under way.
 */
export const useTakeBack = (rig: number) => {
  const write = useWrite(rig);
  return useCallback(
    (kind: "reading" | "event", receipt: string, words: string) =>
      // nothing but what was logged under it may stand there; what somebody has corrected since is asked about
      write({ what: { remove: { kind, id: receipt } }, words: `Undo: ${words}`, saw: 0, after: [receipt] }),
    [write],
  );
};

/** Change a day's own facts as they were seen. */
export const useSetDay = (rig: number, on: string, saw: number) => {
  const write = useWrite(rig);
  return useMutation({
    mutationFn: (facts: Schemas["DayIn"]) =>
      write({ what: { day: { on, facts } }, words: `Facts of ${dateWords(on)}`, saw }),
  });
};

/** Write down what was different at a place. */
export const useNotePlace = (rig: number) => {
  const write = useWrite(rig);
  return useMutation({
    mutationFn: ({ note, words }: { note: Schemas["NoteIn"]; words: string }) => write({ what: { note }, words }),
  });
};

/** Change what a coming day is expected to bring, as it was seen. */
export const useSetPlan = (rig: number, on: string, saw: number) => {
  const write = useWrite(rig);
  return useMutation({
    mutationFn: (facts: Schemas["OutlookIn"]) =>
      write({ what: { plan: { on, facts } }, words: `Plan for ${dateWords(on)}`, saw }),
  });
};
