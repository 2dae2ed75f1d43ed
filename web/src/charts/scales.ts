import { scaleLinear } from "d3-scale";

/** To tenths of a pixel: fine enough to see, short enough to send to the page. */
const tenths = (value: number): number => Math.round(value * 10) / 10;

export const time = (iso: string): number => Date.parse(iso);

export type Across = (iso: string) => number;
export type Up = (value: number) => number;

/** Times to width. */
export const timeScale = (from: number, to: number, width: number): Across => {
  const scale = scaleLinear().domain([from, to]).range([0, width]);
  return (iso) => tenths(scale(time(iso)));
};

/** Contents to height, from an empty store at the bottom to a full one at the top; never outside. */
export const levelScale = (full: number, bottom: number, top: number): Up => {
  const scale = scaleLinear().domain([0, full]).range([bottom, top]);
  return (level) => tenths(scale(Math.min(Math.max(level, 0), full)));
};

/** Amounts to heights above and below one line. ``zero`` is where it lies. */
export interface Ledger {
  zero: number;
  of: (amount: number) => number;
}

export const ledgerScale = (mostUp: number, mostDown: number, height: number): Ledger => {
  const per = height / (Math.max(mostUp, 1) + Math.max(mostDown, 1));
  return { zero: tenths(Math.max(mostUp, 1) * per), of: (amount) => tenths(amount * per) };
};

/** Days to width, from the moment when something was said; never outside. */
export const daysScale = (most: number, from: number, to: number): Up => {
  const scale = scaleLinear().domain([0, most]).range([from, to]).clamp(true);
  return (days) => tenths(scale(days));
};

/** Points within a span, and the one before it so that a line enters from the edge. */
export const within = <T extends { at: string }>(points: readonly T[], from: number, to: number): T[] => {
  const firstIn = points.findIndex((point) => time(point.at) >= from);
  if (firstIn < 0) return points.slice(-1);
  return points.slice(Math.max(0, firstIn - 1)).filter((point) => time(point.at) <= to);
};

/** Amounts to width, from nothing at the left. */
export const amountScale = (most: number, width: number): Up => {
  const scale = scaleLinear().domain([0, most]).range([0, width]);
  return (amount) => tenths(scale(amount));
};
