import { fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { aDay } from "../testing/energy";
import { asWideAs, show } from "../testing/testing";
import { DaysDrawing } from "./DaysDrawing";

const days = [
  aDay({ full: true }),
  aDay({ date: "2026-11-21", taken: null, sky: null }),
  aDay({ date: "2026-11-22", taken: 0, offered: 200, other: 500, load_logged: true }),
  aDay({ date: "2026-11-25", coming: true, taken: 800, offered: 1000, offered_low: 600, offered_high: 1400 }),
];

beforeEach(() => asWideAs(900));
afterEach(() => vi.restoreAllMocks());

const drawn = () => {
  const { container } = show(<DaysDrawing days={days} />);
  const all = (part: string) => [...container.querySelectorAll(`[data-part=${part}]`)];
  const height = (part: string, index: number) => Number(all(part)[index]?.getAttribute("height"));
  return { all, height };
};

describe("in and out by day", () => {
  it("says in words what it shows, day by day", () => {
    drawn();
    const words = screen.getByRole("img").getAttribute("aria-label") ?? "";
    expect(words.split(". ")).toHaveLength(4);
    expect(words).toMatch(/^Fri 20 Nov: .*900 Wh/);
  });

  it("draws what was taken and what was drawn to one scale, from one line", () => {
    const { height } = drawn();
    expect(height("taken", 0) / height("drawn", 0)).toBeCloseTo(900 / 700, 2);
    expect(height("other", 2) / height("drawn", 2)).toBeCloseTo(500 / 700, 2);
    expect(height("taken", 1)).toBe(0);
  });

  it("keeps what was logged, what is learned and what is expected apart", () => {
    const { all } = drawn();
    const look = (part: string, index: number) => all(part)[index]?.getAttribute("class");
    expect(look("drawn", 0)).not.toBe(look("drawn", 2));
    expect(look("taken", 0)).not.toBe(look("taken", 3));
  });

  it("shows by a lid on which days the bank was full", () => {
    expect(drawn().all("lid")).toHaveLength(1);
  });

  it("is a table too", () => {
    drawn();
    fireEvent.click(screen.getByRole("button", { name: "As a table" }));
    const rows = screen.getAllByRole("row");
    expect(rows).toHaveLength(5);
    expect(rows[1]).toHaveTextContent("Fri 20 Novclearabout 1,200 Wh900 Wh––about 700 Wh");
  });
});
