import { marked } from "../api/reader";
import { WORDS } from "./words.generated";

export type System = keyof (typeof WORDS.units)["L"]["shown"];

/** How a quantity is shown: ``shown = base * factor + offset``. */
export interface Shown {
  unit: string;
  factor: number;
  offset: number;
  decimals: number;
}

interface UnitWords {
  typed: Record<string, number>;
  typedIn: Partial<Record<System, Record<string, number>>>;
  shown: Record<System, Shown>;
}

const UNITS = WORDS.units as unknown as Record<string, UnitWords>;
const WHOLE_FROM = 10;

export const shownIn = (unit: string, system: System): Shown =>
  UNITS[unit]?.shown[system] ?? { unit, factor: 1, offset: 0, decimals: 1 };

/** Base unit and factor of a unit as it is typed. */
export const typedUnit = (text: string, system: System): { base: string; factor: number } | null => {
  const word = text.trim().toLowerCase().replace(/\.+$/, "");
  for (const [base, row] of Object.entries(UNITS)) {
    const factor = own(row.typed, word) ?? own(row.typedIn[system], word);
    if (factor !== undefined) return { base, factor };
  }
  return null;
};

/** What a record holds of itself under a word that somebody typed. */
export const own = <T>(record: Record<string, T> | undefined, word: string): T | undefined =>
  record !== undefined && Object.hasOwn(record, word) ? record[word] : undefined;

/** Rounded as the server rounds: halves to the even digit. */
export const fixed = (value: number, digits: number): string => {
  const scaled = value * 10 ** digits;
  const half = Math.abs(scaled % 1) === 0.5;
  const rounded = half ? 2 * Math.round(scaled / 2) : Math.round(scaled);
  return (half ? rounded / 10 ** digits : value).toFixed(digits);
};

export const number = (value: number, decimals: number): string => {
  const digits = Math.abs(value) < WHOLE_FROM ? decimals : 0;
  const text = fixed(Math.abs(value), digits);
  if (!/[1-9]/.test(text)) return "0";
  return marked(value < 0 ? `−${parted(text)}` : parted(text));
};

/** Number and unit, as people read it. */
export const amount = (base: number, unit: string, system: System): string => {
  const how = shownIn(unit, system);
  return `${number(base * how.factor + how.offset, how.decimals)} ${how.unit}`;
};

const WRITTEN = 1e-9;

/** The decimals with which a number was written, where it has no more than so many; else null. */
export const digitsOf = (value: number, most = 2): number | null => {
  const near = Math.abs(value) * WRITTEN;
  for (let digits = 0; digits <= most; digits++) {
    const scale = 10 ** digits;
    if (Math.abs(Math.round(value * scale) / scale - value) <= near) return digits;
  }
  return null;
};

/** A quantity that somebody read off, with the digits that they wrote. */
export const asRead = (base: number, unit: string, system: System): string => {
  const how = shownIn(unit, system);
  const value = base * how.factor + how.offset;
  const digits = digitsOf(value);
  return digits === null ? amount(base, unit, system) : `${marked(parted(fixed(value, digits)))} ${how.unit}`;
};

export const percentAsRead = (share: number): string =>
  `${marked(fixed(share * 100, digitsOf(share * 100, 1) ?? 0))} %`;

export const span = (low: number, high: number, unit: string, system: System): string => {
  const how = shownIn(unit, system);
  const [first, last] = [low, high].map((end) => number(end * how.factor + how.offset, how.decimals));
  return `${first === last ? last : `${first} to ${last}`} ${how.unit}`;
};

export const percent = (share: number): string => `${fixed(share * 100, 0)} %`;

const parted = (text: string): string => {
  const [whole = "", part] = text.split(".");
  return whole.replace(/\B(?=(\d{3})+$)/g, ",") + (part === undefined ? "" : `.${part}`);
};

/** A number with the digits that it has, as it is said. */
export const exact = (value: number): string => marked(parted(String(Number(value.toPrecision(10)))));

/** The same as it would be typed. */
export const typed = (value: number): string => String(Number(value.toPrecision(6)));
