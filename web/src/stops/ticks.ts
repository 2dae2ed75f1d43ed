import { useCallback, useState } from "react";

import type { Schemas } from "../api/client";
import { small } from "../api/small";
import { useTakeBack } from "../outbox/writes";
import { useWaiting, useWrite } from "../outbox/writing";

type Task = Schemas["TaskOut"];

/** What this device knows of a tick: its receipt, that it is ticked here alone, or the entry that was taken back. */
type Known = string | true | { undone: string | null };
type Ticks = Record<string, Known>;

const KEY = "lodeline-ticket";

const read = (ticket: number): Ticks => {
  try {
    return JSON.parse(small.get(`${KEY}-${ticket}`) ?? "{}") as Ticks;
  } catch {
    return {};
  }
};

/** A tick: whether it is set, and whether its entry still waits for a signal. */
interface Tick {
  set: boolean;
  waits: boolean;
}

/** Ticks of a ticket: each writes its event through the queue of this device, and can be taken back. */
export const useTicks = (rig: number, ticket: Schemas["TicketOut"]) => {
  const [ticks, setTicks] = useState(() => read(ticket.id));
  const waiting = useWaiting();
  const write = useWrite(rig);
  const takeBack = useTakeBack(rig);
  const keep = useCallback(
    (change: (before: Ticks) => Ticks) =>
      setTicks((before) => {
        const next = change(before);
        small.set(`${KEY}-${ticket.id}`, JSON.stringify(next));
        return next;
      }),
    [ticket.id],
  );
  const of = (task: Task): Tick => {
    const mine = ticks[task.id];
    const waits = typeof mine === "string" && waiting.some((each) => each.id === mine && each.state === "waiting");
    // what was logged or taken back here is known before the server says so
    const set = typeof mine === "object" ? task.done !== null && task.done !== mine.undone : mine !== undefined;
    return { set: set || (mine === undefined && task.done !== null), waits };
  };
  const put = (task: Task, known: Known | undefined) =>
    keep((before) => {
      const rest = Object.fromEntries(Object.entries(before).filter(([id]) => id !== task.id));
      return known === undefined ? rest : { ...rest, [task.id]: known };
    });
  const tick = async (task: Task, event: Schemas["EventIn"] | null): Promise<void> => {
    if (event === null) return put(task, true);
    put(task, (await write({ what: { add: { event } }, words: task.words })).id);
  };
  const undo = async (task: Task): Promise<void> => {
    const mine = ticks[task.id];
    put(task, task.event === null ? undefined : { undone: task.done });
    if (task.event === null) return;
    try {
      if (typeof mine === "string") await takeBack("event", mine, task.words);
      // ticked on another device, and seen there as this ticket says
      else if (task.done !== null)
        await write({
          what: { remove: { kind: "event", id: task.done } },
          words: `Undo: ${task.words}`,
          saw: ticket.revision,
        });
    } catch (error) {
      put(task, mine);
      throw error;
    }
  };
  return { of, tick, undo };
};
