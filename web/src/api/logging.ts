import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";

import { isFinal, type Schemas } from "./client";
import { keys } from "./keys";
import { outbox, post, refusedOf, together, type Waiting } from "./outbox";

/** What came of logging something: it waits on this device, or it is kept, with what was understood. */
export type Logged = { waits: true } | { waits: false; entry: Schemas["EntryOut"] | null };
export type Log = (waiting: Waiting) => Promise<Logged>;

interface Job {
  waiting: Waiting;
  done: (logged: Logged) => void;
  failed: (error: unknown) => void;
}

/** What was logged on this page and is not sent yet, in order. What is quick in turn is sent as one batch. */
const queue: Job[] = [];
let working = false;

/** A connection that hangs does not hold up the rest for longer than this. */
const aWhile = () => new Promise((resolve) => setTimeout(resolve, 5_000));

/** What waits keeps the time at which it was logged; what is sent at once takes the server's. */
const stamped = (waiting: Waiting): Waiting => {
  if (!("entry" in waiting) || waiting.entry.at || waiting.entry.time) return waiting;
  return { ...waiting, entry: { at: new Date().toISOString(), ...waiting.entry } };
};

const putBy = (jobs: Job[]) => {
  outbox.add(...jobs.map((job) => stamped(job.waiting)));
  jobs.forEach((job) => job.done({ waits: true }));
};

const send = async (jobs: Job[]): Promise<void> => {
  try {
    const answers = await post(jobs.map((job) => job.waiting));
    jobs.forEach((job, index) => job.done({ waits: false, entry: answers[index] ?? null }));
  } catch (error) {
    if (!isFinal(error)) return putBy(jobs);
    // nothing of the batch was kept: the one that was refused hears why, the others go again
    const bad = refusedOf(error, jobs.length);
    jobs[bad]?.failed(error);
    queue.unshift(...jobs.filter((_, index) => index !== bad));
  }
};

const work = async (fresh: () => Promise<unknown>): Promise<void> => {
  if (working) return;
  working = true;
  try {
    while (queue.length > 0) {
      // what already waits was logged earlier and goes first
      if (outbox.size() > 0) await outbox.flush();
      const jobs = queue.splice(0, together(queue.map((job) => job.waiting)));
      if (outbox.size() > 0) putBy(jobs);
      else await Promise.race([send(jobs).then(fresh), aWhile()]);
    }
  } finally {
    working = false;
  }
};

/** Log something at once; without a signal it waits on this device. */
export const useLogging = (rig: number): Log => {
  const queries = useQueryClient();
  const fresh = useCallback(() => queries.invalidateQueries({ queryKey: keys.ofRig(rig) }), [queries, rig]);
  useEffect(() => {
    const flush = () => void outbox.flush().then((taken) => (taken ? fresh() : undefined));
    flush();
    window.addEventListener("online", flush);
    const timer = window.setInterval(flush, 15_000);
    return () => {
      window.removeEventListener("online", flush);
      window.clearInterval(timer);
    };
  }, [fresh]);
  return useCallback(
    (waiting: Waiting) =>
      new Promise<Logged>((done, failed) => {
        queue.push({ waiting, done, failed });
        // after the hand's own turn, so that what is done in it goes together
        queueMicrotask(() => void work(fresh));
      }),
    [fresh],
  );
};
