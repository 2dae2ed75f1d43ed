import { scaleLinear } from "d3-scale";
import { area, curveLinear, line } from "d3-shape";

import type { Schemas } from "../api/client";

type Horizon = Schemas["HorizonOut"];
export type Lane = Schemas["Lane"];
export type HorizonDay = Schemas["HorizonDay"];

export const LANE_HEIGHT = 64;
const PAD = 7;

export const time = (iso: string): number => Date.parse(iso);

export interface Strip {
  width: number;
  from: number;
  to: number;
  days: HorizonDay[];
  x: (iso: string) => number;
}

/**
 * The strip of days that fits: all of them on a wide screen; on a narrow one the last days and as many coming ones as
 * keep a day wide enough for a finger, stretched so that the day that matters is on it.
 */
export const makeStrip = (horizon: Horizon, width: number): Strip => {
  const narrow = width < 620;
  const today = horizon.days.findIndex((day) => day.coming);
  const markDay = horizon.days.findIndex(
    (day) => horizon.mark !== null && time(day.ends_at) >= time(horizon.mark ?? ""),
  );
  const first = narrow ? Math.max(0, today - 2) : 0;
  const last = narrow ? Math.min(horizon.days.length, Math.max(today + 7, markDay + 2)) : horizon.days.length;
  const days = horizon.days.slice(first, last);
  const from = time(days[0]?.starts_at ?? horizon.starts_at);
  const to = time(days[days.length - 1]?.ends_at ?? horizon.ends_at);
  const scale = scaleLinear().domain([from, to]).range([0, width]);
  return { width, from, to, days, x: (iso) => Math.round(scale(time(iso)) * 10) / 10 };
};

/** Contents to height: the store's whole capacity fills the lane. */
export const laneScale = (capacity: number) => {
  const scale = scaleLinear()
    .domain([0, capacity])
    .range([LANE_HEIGHT - PAD, PAD]);
  return (level: number): number => Math.round(scale(Math.min(Math.max(level, 0), capacity)) * 10) / 10;
};

/** Points within the strip, and the one before it so that a line enters from the edge. */
export const within = <T extends { at: string }>(points: readonly T[], strip: Strip): T[] => {
  const firstIn = points.findIndex((point) => time(point.at) >= strip.from);
  if (firstIn < 0) return points.slice(-1);
  return points.slice(Math.max(0, firstIn - 1)).filter((point) => time(point.at) <= strip.to);
};

export const pastBand = (points: Lane["past"], x: Strip["x"], y: (level: number) => number): string =>
  area<Lane["past"][number]>()
    .x((point) => x(point.at))
    .y0((point) => y(point.low))
    .y1((point) => y(point.high))
    .curve(curveLinear)(points) ?? "";

export const pastLine = (points: Lane["past"], x: Strip["x"], y: (level: number) => number): string =>
  line<Lane["past"][number]>()
    .x((point) => x(point.at))
    .y((point) => y(point.level))(points) ?? "";

export const fanBand = (points: Lane["fan"], x: Strip["x"], y: (level: number) => number): string =>
  area<Lane["fan"][number]>()
    .x((point) => x(point.at))
    .y0((point) => y(point.p10))
    .y1((point) => y(point.p90))(points) ?? "";

export const fanLine = (points: Lane["fan"], x: Strip["x"], y: (level: number) => number): string =>
  line<Lane["fan"][number]>()
    .x((point) => x(point.at))
    .y((point) => y(point.p50))(points) ?? "";
