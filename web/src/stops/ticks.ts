import { useCallback, useState } from "react";

import { outbox } from "../outbox/outbox";
import { useWaiting, useWrite } from "../outbox/writing";
import type { Schemas } from "../api/client";

type Task = Schemas["TaskOut"];

/** What this device knows of a ticket's ticks: the write of each, and what was only ticked here. */
type Ticks = Record<string, string | true>;

const KEY = "lodeline-ticket";

const read = (ticket: number): Ticks => {
  try {
    return JSON.parse(localStorage.getItem(`${KEY}-${ticket}`) ?? "{}") as Ticks;
  } catch {
    return {};
  }
};

/** A tick: whether it is set, and whether its entry still waits for a signal. */
export interface Tick {
  set: boolean;
  waits: boolean;
}

/** Ticks of a ticket: each writes its event through the queue of this device, and can be taken back. */
export const useTicks = (rig: number, ticket: Schemas["TicketOut"]) => {
  const [ticks, setTicks] = useState(() => read(ticket.id));
  const waiting = useWaiting();
  const write = useWrite(rig);
  const keep = useCallback(
    (change: (before: Ticks) => Ticks) =>
      setTicks((before) => {
        const next = change(before);
        localStorage.setItem(`${KEY}-${ticket.id}`, JSON.stringify(next));
        return next;
      }),
    [ticket.id],
  );
  const of = (task: Task): Tick => {
    const mine = ticks[task.id];
    const waits = typeof mine === "string" && waiting.some((each) => each.id === mine && each.state === "waiting");
    // what was logged here is known before the server says so
    return { set: task.done !== null || mine !== undefined, waits };
  };
  const tick = async (task: Task, event: Schemas["EventIn"] | null): Promise<void> => {
    if (event === null) return keep((before) => ({ ...before, [task.id]: true }));
    const done = await write({ what: { add: { event } }, words: task.words });
    const id = done.waits ? done.id : (done.entry?.sent ?? true);
    keep((before) => ({ ...before, [task.id]: id }));
  };
  const undo = async (task: Task): Promise<void> => {
    const mine = ticks[task.id];
    keep((before) => Object.fromEntries(Object.entries(before).filter(([id]) => id !== task.id)));
    if (task.event === null) return;
    if (typeof mine === "string" && waiting.some((each) => each.id === mine)) return outbox.discard(mine);
    const ref = { kind: "event", id: task.done, sent: task.done === null && typeof mine === "string" ? mine : null };
    if (ref.id === null && ref.sent === null) return;
    await write({
      what: { remove: ref },
      words: `Undo: ${task.words}`,
      saw: Number.MAX_SAFE_INTEGER,
      after: ref.sent ? [ref.sent] : [],
    });
  };
  return { of, tick, undo };
};
