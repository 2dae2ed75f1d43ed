/** A text in a number's field that says no number, and what would be right. */
export interface Unread {
  text: string;
  problem: string;
}

/** What a number's field holds: the number, nothing, or a text that is none. */
export type Typed = number | null | Unread;

export const isUnread = (value: unknown): value is Unread =>
  typeof value === "object" && value !== null && "problem" in value;

const PLAIN = /^[+-]?(\d+\.?\d*|\.\d+)$/;
const TWO_WAYS = /^[+-]?[1-9]\d{0,2},\d{3}$/;

/**
 * Understand a typed number; an empty field says none. Spaces may part thousands. A comma is a decimal comma, unless
 * a point follows it; where exactly three digits follow it, it may be either, and is asked about rather than guessed.
 */
export const typedNumber = (text: string): Typed => {
  const dense = text
    .trim()
    .replace(/[\s'’]/g, "")
    .replace("−", "-");
  if (dense === "") return null;
  if (TWO_WAYS.test(dense)) {
    const [large, small] = [dense.replace(",", ""), String(Number(dense.replace(",", ".")))];
    return { text, problem: `"${text.trim()}" may be ${large} or ${small}; write it one of these ways.` };
  }
  const [comma, point] = [dense.lastIndexOf(","), dense.lastIndexOf(".")];
  const parted =
    comma < point ? dense.replaceAll(",", "") : dense.replaceAll(".", point < 0 ? "." : "").replace(",", ".");
  if (PLAIN.test(parted)) return Number(parted);
  return { text, problem: `"${text.trim()}" is not a number; write one such as 12.5.` };
};
