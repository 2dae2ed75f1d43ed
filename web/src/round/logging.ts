import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";

import { Refusal } from "../api/client";
import { outbox, post, type Waiting } from "./outbox";

/** Log something at once; without a signal it waits on this device. Says which of the two happened. */
export const useLogging = (rig: number) => {
  const queries = useQueryClient();
  const fresh = useCallback(() => queries.invalidateQueries({ queryKey: ["rig", rig] }), [queries, rig]);
  useEffect(() => {
    const send = () => void outbox.flush().then((taken) => (taken ? fresh() : undefined));
    send();
    window.addEventListener("online", send);
    const timer = window.setInterval(send, 15_000);
    return () => {
      window.removeEventListener("online", send);
      window.clearInterval(timer);
    };
  }, [fresh]);
  const now = useCallback(
    async (entry: Waiting): Promise<"kept" | "waits"> => {
      try {
        // what already waits was logged earlier and goes first
        if (outbox.size() > 0) await outbox.flush();
        if (outbox.size() > 0) throw new Refusal(0, "", "");
        await post(entry);
        await fresh();
        return "kept";
      } catch (error) {
        if (!(error instanceof Refusal) || error.status !== 0) throw error;
        outbox.add(stamped(entry));
        return "waits";
      }
    },
    [fresh],
  );
  return useCallback(
    (entry: Waiting): Promise<"kept" | "waits"> => {
      const mine = Promise.race([last, aWhile()]).then(() => now(entry));
      last = mine.catch(() => undefined);
      return mine;
    },
    [now],
  );
};

/** The last that was logged on this page: the next is sent when it has been answered, so that order is kept. */
let last: Promise<unknown> = Promise.resolve();

/** A connection that hangs does not hold up the rest for longer than this. */
const aWhile = () => new Promise((resolve) => setTimeout(resolve, 5_000));

/** What waits keeps the time at which it was logged; what is sent at once takes the server's. */
const stamped = (entry: Waiting): Waiting => {
  const at = new Date().toISOString();
  if (entry.kind === "reading") return { ...entry, body: { at, ...entry.body } };
  if (entry.kind === "event") return { ...entry, body: { at, ...entry.body } };
  return entry;
};
