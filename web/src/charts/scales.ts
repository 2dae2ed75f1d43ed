/** To tenths of a pixel: fine enough to see, short enough to send to the page. */
const tenths = (value: number): number => Math.round(value * 10) / 10;

/** A straight scale: ``from`` at ``low``, ``to`` at ``high``; all at ``low`` where the span is empty. */
const linear =
  (from: number, to: number, low: number, high: number): Up =>
  (value) =>
    to === from ? low : low + ((value - from) / (to - from)) * (high - low);

export const time = (iso: string): number => Date.parse(iso);

export type Across = (iso: string) => number;
export type Up = (value: number) => number;

/** Times to width. */
export const timeScale = (from: number, to: number, width: number): Across => {
  const scale = linear(from, to, 0, width);
  return (iso) => tenths(scale(time(iso)));
};

/** Contents to height, from an empty store at the bottom to a full one at the top; never outside. */
export const levelScale = (full: number, bottom: number, top: number): Up => {
  const scale = linear(0, full, bottom, top);
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
  const scale = linear(0, most, from, to);
  return (days) => tenths(scale(Math.min(Math.max(days, 0), most)));
};

/** Points within a span, and the one before it so that a line enters from the edge. */
export const within = <T extends { at: string }>(points: readonly T[], from: number, to: number): T[] => {
  const firstIn = points.findIndex((point) => time(point.at) >= from);
  if (firstIn < 0) return points.slice(-1);
  return points.slice(Math.max(0, firstIn - 1)).filter((point) => time(point.at) <= to);
};

/** Amounts to width, from nothing at the left. */
export const amountScale = (most: number, width: number): Up => {
  const scale = linear(0, most, 0, width);
  return (amount) => tenths(scale(amount));
};
