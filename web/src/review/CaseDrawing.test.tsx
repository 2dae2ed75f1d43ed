import { ChakraProvider } from "@chakra-ui/react";
import { render, screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { system } from "../app/theme";
import { CaseDrawing } from "./CaseDrawing";

const aCase = {
  store: "fresh",
  name: "Fresh water",
  kind: "fresh",
  at: "2026-11-01T20:00:00Z",
  p10: 2,
  p50: 3,
  p90: 5,
  outcome: "reached",
  days: 4,
  held: true,
};

const draw = (change: Partial<typeof aCase> & { p90?: number | null } = {}) =>
  render(
    <ChakraProvider value={system}>
      <CaseDrawing found={{ ...aCase, ...change }} />
    </ChakraProvider>,
  ).container;

describe("a forecast that came true", () => {
  it("is said in words", () => {
    draw();
    expect(screen.getByRole("img")).toHaveAccessibleName(
      "Said 2.0 to 5.0 days, middle 3.0; the line was reached after 4.0 days; held",
    );
  });

  it("puts the truth inside a range that held and outside one that did not", () => {
    const place = (container: HTMLElement) => {
      const range = container.querySelector("[data-part=range]");
      const truth =
        Number(
          container
            .querySelector("[data-part=truth]")
            ?.getAttribute("d")
            ?.match(/M([\d.]+)/)?.[1],
        ) + 4;
      return truth >= Number(range?.getAttribute("x1")) && truth <= Number(range?.getAttribute("x2"));
    };
    expect(place(draw())).toBe(true);
    expect(place(draw({ days: 7, held: false }))).toBe(false);
  });
});
