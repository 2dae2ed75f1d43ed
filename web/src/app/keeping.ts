import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import { keys } from "../api/keys";
import { revisionQuery } from "../api/queries";
import { outbox } from "../outbox/outbox";
import { stamps } from "../outbox/send";

const EVERY_MS = 15_000;

/** Sends what waits, from every view: on start, when one looks again, and every so often. */
export const useSending = (account: string | null): void => {
  const queries = useQueryClient();
  useEffect(() => {
    outbox.belongsTo(account);
    if (account === null) return;
    const send = () => void outbox.flush();
    const look = () => document.visibilityState === "visible" && send();
    const timer = window.setInterval(send, EVERY_MS);
    document.addEventListener("visibilitychange", look);
    return () => {
      window.clearInterval(timer);
      document.removeEventListener("visibilitychange", look);
    };
  }, [account]);
  useEffect(
    () => outbox.onKept((rigs) => rigs.forEach((rig) => void queries.invalidateQueries({ queryKey: keys.ofRig(rig) }))),
    [queries],
  );
};

/** Fetches a rig's views anew when another hand wrote to it, or when the network is back after what waited was sent. */
export const useFresh = (rig: number): void => {
  const queries = useQueryClient();
  const stamp = useQuery(revisionQuery(rig)).data?.stamp;
  useEffect(() => {
    if (stamp === undefined) return;
    const known = stamps.get(rig);
    stamps.set(rig, stamp);
    if (known !== undefined && known !== stamp) void queries.invalidateQueries({ queryKey: keys.ofRig(rig) });
  }, [queries, rig, stamp]);
  useEffect(() => {
    const back = () => void outbox.flush().then(() => queries.invalidateQueries());
    window.addEventListener("online", back);
    return () => window.removeEventListener("online", back);
  }, [queries]);
};
