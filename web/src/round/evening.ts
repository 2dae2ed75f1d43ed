import type { Schemas } from "../api/client";
import type { Waiting } from "../outbox/device";
import { factsWaiting } from "../outbox/waiting";

type Round = Schemas["RoundOut"];

/** The date where the rig is, by this device's clock. */
const dateIn = (timezone: string, now: Date): string =>
  new Intl.DateTimeFormat("en-CA", { timeZone: timezone, year: "numeric", month: "2-digit", day: "2-digit" }).format(
    now,
  );

/** What the fan of the last answer expects by now; without a signal it goes on from there. */
export const expectedNow = (store: Schemas["RoundStore"], asOf: string, now: Date): Expected => {
  const points = store.ahead.filter((point) => Date.parse(point.at) <= now.getTime());
  const point = points.at(-1);
  return point && Date.parse(point.at) > Date.parse(asOf) ? point : store;
};

/** What a gauge is expected to show, and what is typed for it where that follows. */
export type Expected = Pick<Schemas["RoundStore"], "expected" | "usual">;

const NO_FACTS = {
  sky: null, temp_min: null, temp_max: null, status: null, crew_aboard: null, solar_wh: null, load_wh: null,
  water: null, note: null, place: null, panels_covered: null,
}; // prettier-ignore

/** The evening as it stands on this device: the last answer, moved on to today, with what waits here put over it. */
export const eveningOf = (rig: number, round: Round, waiting: readonly Waiting[], now: Date) => {
  const today = dateIn(round.timezone, now);
  const isLater = today > round.day.date;
  const date = isLater ? today : round.day.date;
  const facts = factsWaiting(waiting, rig, "day", date);
  const gone = new Set(waiting.map((each) => each.what.remove?.id).filter(Boolean));
  const added = waiting.filter((each) => each.what.add && each.state === "waiting" && !gone.has(each.id));
  return {
    date,
    day: { ...(isLater ? { ...NO_FACTS, date } : round.day), ...facts },
    entries: isLater ? [] : round.entries.filter((entry) => !gone.has(entry.id)),
    added: added.filter((each) => (each.what.add?.on ?? dateIn(round.timezone, new Date(each.made_at))) === date),
    readings: new Map(added.map((each) => [each.what.add?.reading?.store, each.what.add?.reading?.text])),
  };
};
