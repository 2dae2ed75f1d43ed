import { Box } from "@chakra-ui/react";
import { type ReactNode, useCallback, useState } from "react";

import { type Schemas, sentenceOf } from "../api/client";
import { useWrite } from "../outbox/writing";
import { useOnce } from "../parts/once";
import { Came, type Outcome } from "./Came";

type Event = Schemas["EventIn"];

/** When it was done, where that is not now: a time of today, or of another day. */
type When = Pick<Schemas["EntryIn"], "on" | "time">;

export interface Did {
  /** Log an event once, now or when it was; fails with why it was not taken. */
  log: (words: string, event: Event, when?: When) => Promise<void>;
  /** The same by one touch: what goes wrong is said where ``said`` stands. */
  touch: (words: string, event: Event, when?: When) => void;
  /** What came of the last one, with its undo. */
  said: ReactNode;
  /** Whether anything was touched yet. */
  touched: boolean;
}

/** What was done, logged by one touch and taken back by one: for every view that offers acts. */
export const useDid = (rig: number): Did => {
  const write = useWrite(rig);
  const once = useOnce();
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const log = useCallback(
    async (label: string, event: Event, when: When = {}) => {
      const words = when.time ? `${label}, ${when.time}` : label;
      const done = await write({ what: { add: { event, ...when } }, words });
      setOutcome({ rig, kind: "event", words: label, id: done.id });
      setProblem(null);
    },
    [write, rig],
  );
  const touch = useCallback(
    (words: string, event: Event, when?: When) =>
      void once(words, () => log(words, event, when).catch((error: unknown) => setProblem(sentenceOf(error)))),
    [once, log],
  );
  const said = (
    <Box role="status" mt="2" minH="1.4em">
      {problem ? <Box color="warn">{problem}</Box> : outcome && <Came key={outcome.id} kept="Logged" {...outcome} />}
    </Box>
  );
  return { log, touch, said, touched: outcome !== null || problem !== null };
};
