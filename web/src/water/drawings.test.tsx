import { fireEvent, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { asWideAs, show } from "../testing/testing";
import { aBalance, aWater } from "../testing/water";
import { BalanceDrawing } from "./BalanceDrawing";
import { HistoryDrawing } from "./HistoryDrawing";
import { Uses } from "./Uses";

beforeEach(() => asWideAs(500));
afterEach(() => vi.restoreAllMocks());

const sizes = (container: HTMLElement, part: string) => {
  const bar = container.querySelector(`[data-part="${part}"]`);
  return [Number(bar?.getAttribute("x")), Number(bar?.getAttribute("width"))] as const;
};

describe("the balance", () => {
  it("draws where the water went one after the other on one scale, and what is left over to the end", () => {
    const { container } = show(<BalanceDrawing balances={aWater().balances} />);
    const [start, drawn] = sizes(container, "drawn");
    const [grey, greyWidth] = sizes(container, "grey-grey");
    const [drunk, drunkWidth] = sizes(container, "drunk-");
    const [left, leftWidth] = sizes(container, "left-over");
    expect(start).toBe(0);
    expect(grey).toBe(0);
    expect(greyWidth / drawn).toBeCloseTo(0.6, 2);
    expect(drunk).toBeCloseTo(greyWidth, 0);
    expect(left).toBeCloseTo(drunk + drunkWidth, 0);
    expect(left + leftWidth).toBeCloseTo(drawn, 0);
    expect(screen.getByRole("img")).toHaveAccessibleName(/^In 7 days/);
  });

  it("is of a day, a week or a stay, and also a table", () => {
    show(<BalanceDrawing balances={aWater().balances} />);
    fireEvent.click(screen.getByRole("button", { name: "The last day" }));
    expect(screen.getByRole("img")).toHaveAccessibleName(/^In 1 day/);
    fireEvent.click(screen.getByRole("button", { name: "As a table" }));
    expect(screen.getByRole("rowheader", { name: "into Grey tank" })).toBeVisible();
  });

  it("names a sum that does not close with its reasons", () => {
    const open = aBalance({ closes: false, closes_words: "The sums do not close: likely a leak.", apart_words: null });
    const { container } = show(<BalanceDrawing balances={[open]} />);
    expect(screen.getByRole("note")).toHaveTextContent("likely a leak");
    expect(container.querySelector("[data-part=apart]")).toBeNull();
  });

  it("says so where nothing is known", () => {
    show(<BalanceDrawing balances={[]} />);
    expect(screen.getByText(/Nothing is known/)).toBeVisible();
  });
});

describe("what it is used for", () => {
  it("draws each range on one scale and says what cannot be told apart", () => {
    show(<Uses water={aWater()} />);
    expect(screen.getByRole("img", { name: "Dishes: 3.5 to 5.6 L a day" })).toBeVisible();
    expect(screen.getByRole("note")).toHaveTextContent("cannot be told apart");
    expect(screen.getByText(/once a day, 3.1 to 5.2 L each; learned from the log/)).toBeVisible();
    expect(screen.getByText("once a day; not logged by itself")).toBeVisible();
  });
});

describe("a person a day", () => {
  it("is drawn by week or by month, as high as it says", () => {
    const { container } = show(<HistoryDrawing water={aWater()} />);
    const heights = [...container.querySelectorAll("[data-part=stretch]")].map((bar) =>
      Number(bar.getAttribute("height")),
    );
    expect((heights[1] ?? 0) / (heights[0] ?? 1)).toBeCloseTo(10 / 12, 1);
    fireEvent.click(screen.getByRole("button", { name: "By month" }));
    expect(container.querySelectorAll("[data-part=stretch]")).toHaveLength(1);
    expect(screen.getByRole("img")).toHaveAccessibleName("November 2026: 11 L a person a day");
  });
});
