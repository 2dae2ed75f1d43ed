import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { aCase } from "../testing/review";
import { show } from "../testing/testing";
import { CaseDrawing } from "./CaseDrawing";

const draw = (change: Partial<Schemas["Case"]> = {}) =>
  show(<CaseDrawing one={aCase(change)} horizonDays={14} />).container;

describe("a forecast that came true", () => {
  it("is said in words", () => {
    draw();
    expect(screen.getByRole("img")).toHaveAccessibleName(aCase().words);
  });

  it("puts the truth inside a range that held and outside one that did not", () => {
    const isInside = (container: HTMLElement) => {
      const range = container.querySelector("[data-part=range]");
      const cross = container.querySelector("[data-part=truth]")?.getAttribute("d") ?? "";
      const truth = Number(/M([\d.]+)/.exec(cross)?.[1]) + 4;
      return truth >= Number(range?.getAttribute("x1")) && truth <= Number(range?.getAttribute("x2"));
    };
    expect(isInside(draw())).toBe(true);
    expect(isInside(draw({ days: 7, held: false }))).toBe(false);
  });
});
