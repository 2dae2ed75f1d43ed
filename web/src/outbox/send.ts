import { client, Refusal, type Schemas, take } from "../api/client";
import { agoOf, hearClock } from "./clock";
import type { Waiting } from "./device";

/** A request that hangs is given up after this; what it brought is sent again, under the same ids. */
const PATIENCE_MS = 20_000;

const written = (each: Waiting): Schemas["WriteIn"] => ({
  id: each.id,
  made_at: each.made_at,
  ago_s: agoOf(each.made_at, each.off_ms),
  saw: each.saw,
  after: each.after,
  ...each.what,
});

/** The state of each rig after the last write from here; who asks for it later need not fetch what is known. */
export const stamps = new Map<number, string>();

/** Send writes of one rig, as their account; answers what came of each. */
export const send = async (writes: readonly Waiting[]): Promise<Schemas["WriteOut"][]> => {
  const [first] = writes;
  if (first === undefined) return [];
  const stop = new AbortController();
  const timer = setTimeout(() => stop.abort(), PATIENCE_MS);
  try {
    const asked = client.POST("/api/rigs/{rig_id}/writes", {
      params: { path: { rig_id: String(first.rig) } },
      body: { writes: writes.map(written) },
      headers: { "X-Lodeline-Account": encodeURIComponent(first.account) },
      signal: stop.signal,
    });
    void asked.then((answer) => hearClock(answer.response)).catch(() => undefined);
    const answer = await take(asked);
    stamps.set(first.rig, answer.stamp);
    return answer.writes;
  } finally {
    clearTimeout(timer);
  }
};

/** The one of so many that an answer is about; null where it is about all of them. */
export const oneOf = (error: Refusal, count: number): number | null => {
  const index = Number(/^writes\[(\d+)\]/.exec(error.place)?.[1] ?? Number.NaN);
  return index < count ? index : count === 1 ? 0 : null;
};
