import { small } from "../api/small";
const KEY = "lodeline-clock-off";

/** How far this device's clock is off the server's, in ms, when last heard; null before that. */
export const clockOff = (): number | null => {
  const kept = small.get(KEY);
  return kept === null ? null : Number(kept);
};

/** Learn it from an answer's head, which tells the time to the second. */
export const hearClock = (response: Response): void => {
  const at = Date.parse(response.headers.get("Date") ?? "");
  if (!Number.isNaN(at)) small.set(KEY, String(at - Date.now()));
};

/** How long ago something was made, in seconds, also where this device's clock was set meanwhile. */
export const agoOf = (made_at: string, off_ms: number | null): number => {
  const now = clockOff();
  const set = off_ms === null || now === null ? 0 : now - off_ms;
  // the head of an answer is exact to a second or two, and a slow line adds to that; less is no setting of a clock
  const moved = Math.abs(set) > 60_000 ? set : 0;
  return (Date.now() - Date.parse(made_at) + moved) / 1000;
};
