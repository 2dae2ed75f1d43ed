import { small } from "./small";
/** How the person writes numbers, dates and the time of day: what they chose, else what their browser does. */
export interface Reader {
  clock: "auto" | "24" | "12";
  dates: "auto" | "day" | "month";
  numbers: "auto" | "point" | "comma" | "space";
}

const KEY = "lodeline-reader";
const AUTO: Reader = { clock: "auto", dates: "auto", numbers: "auto" };
let kept: Reader | null = null;

export const reader = (): Reader => {
  if (kept === null) {
    try {
      kept = { ...AUTO, ...(JSON.parse(small.get(KEY) ?? "{}") as Partial<Reader>) };
    } catch {
      kept = AUTO;
    }
  }
  return kept;
};

export const keepReader = (next: Reader): void => {
  small.set(KEY, JSON.stringify(next));
  kept = null;
};

const language = (): string => navigator.language || "en-GB";

export const hours24 = (): boolean => {
  const { clock } = reader();
  if (clock !== "auto") return clock === "24";
  return !new Intl.DateTimeFormat(language(), { hour: "numeric" }).resolvedOptions().hour12;
};

export const monthFirst = (): boolean => {
  const { dates } = reader();
  if (dates !== "auto") return dates === "month";
  const parts = new Intl.DateTimeFormat(language(), { day: "numeric", month: "numeric" }).formatToParts(new Date(0));
  // as English is written there: a language that puts the year or the month first in figures says "3 December" in words
  return language().startsWith("en") && parts.find((part) => part.type !== "literal")?.type === "month";
};

export const numbers = (): "point" | "comma" | "space" => {
  const chosen = reader().numbers;
  if (chosen !== "auto") return chosen;
  const parts = new Intl.NumberFormat(language()).formatToParts(12345.5);
  const [group, decimal] = ["group", "decimal"].map((type) => parts.find((part) => part.type === type)?.value);
  if (decimal !== ",") return "point";
  return group === "." ? "comma" : "space";
};

/** The same for the server, which writes the sentences. */
export const readerHead = (): string =>
  [`clock=${hours24() ? 24 : 12}`, `dates=${monthFirst() ? "month" : "day"}`, `numbers=${numbers()}`].join(",");

const MARKS = { point: [",", "."], comma: [".", ","], space: ["\u202f", ","] } as const;

/** A number that is written as the server writes it by itself, as the person does. */
export const marked = (text: string): string => {
  const [thousands, point] = MARKS[numbers()];
  return text.replace(/[.,]/g, (mark) => (mark === "," ? thousands : point));
};
