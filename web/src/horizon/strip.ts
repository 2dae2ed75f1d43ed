import type { Schemas } from "../api/client";
import { type Across, time, timeScale } from "../charts/scales";

type Horizon = Schemas["HorizonOut"];
export type Lane = Schemas["Lane"];
export type HorizonDay = Schemas["HorizonDay"];

export const LANE_HEIGHT = 64;
/** Of the row of dates. */
export const DAYS_HEIGHT = 92;
export const LANE_PAD = 7;
/** Under this width not all days have room for a finger. */
export const NARROW = 620;
const BACK = 1;
// a thumb's width
const FINGER_PX = 44;

export interface Strip {
  width: number;
  from: number;
  to: number;
  days: HorizonDay[];
  x: Across;
}

/**
 * The strip of days that fits: all of them on a wide screen; on a narrow one the last days and as many coming ones as
 * keep a day wide enough for a finger, stretched so that the day that matters is on it.
 */
export const makeStrip = (horizon: Horizon, width: number): Strip => {
  const narrow = width < NARROW;
  const today = horizon.days.findIndex((day) => day.coming);
  const first = horizon.first_at;
  const firstDay = horizon.days.findIndex((day) => first !== null && time(day.ends_at) >= time(first));
  const on = Math.floor(width / FINGER_PX) - BACK;
  const start = narrow ? Math.max(0, today - BACK) : 0;
  const end = narrow ? Math.min(horizon.days.length, Math.max(today + on, firstDay + 2)) : horizon.days.length;
  const days = horizon.days.slice(start, end);
  const from = time(days[0]?.starts_at ?? horizon.starts_at);
  const to = time(days[days.length - 1]?.ends_at ?? horizon.ends_at);
  return { width, from, to, days, x: timeScale(from, to, width) };
};

/** The row of planned stops: how high it is, what stands in it, and where the end of the stay does. */
export const rowOf = (strip: Strip) =>
  strip.width < NARROW
    ? { height: 2 * FINGER_PX + 6, flag: FINGER_PX, stay: FINGER_PX + 3, least: FINGER_PX }
    : { height: 56, flag: 26, stay: 30, least: 40 };
