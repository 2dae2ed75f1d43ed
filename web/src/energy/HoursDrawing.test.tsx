import { ChakraProvider } from "@chakra-ui/react";
import { render, screen } from "@testing-library/react";
import { beforeEach, describe, expect, it, vi } from "vitest";

import { system } from "../app/theme";
import { HoursDrawing } from "./HoursDrawing";
import type { Energy } from "./scales";

const hour = (at: string, p50: number) => ({ at, p10: p50 - 0.05, p50, p90: p50 + 0.05 });

const energy = {
  now: "2026-11-25T20:00:00+00:00",
  line: 0.2,
  level: { p10: 0.7, p50: 0.75, p90: 0.8 },
  past: [hour("2026-11-25T12:00:00+00:00", 0.8), hour("2026-11-25T20:00:00+00:00", 0.75)],
  hours: [hour("2026-11-26T08:00:00+00:00", 0.6), hour("2026-11-26T16:00:00+00:00", 0.9)],
  low: { at: "2026-11-26T08:00:00+00:00", p10: 0.55, p50: 0.6, p90: 0.65 },
  high: { at: "2026-11-26T16:00:00+00:00", p10: 0.85, p50: 0.9, p90: 0.95 },
} as unknown as Energy;

const draw = (change: Partial<Energy> = {}) =>
  render(
    <ChakraProvider value={system}>
      <HoursDrawing energy={{ ...energy, ...change }} />
    </ChakraProvider>,
  ).container;

describe("the hours of a bank", () => {
  beforeEach(() => {
    vi.spyOn(HTMLElement.prototype, "clientWidth", "get").mockReturnValue(1056);
  });

  it("are said in words", () => {
    draw();
    expect(screen.getByRole("img")).toHaveAccessibleName(
      "Now 70 to 80 % of capacity; low 55 to 65 % at 08:00; high 85 to 95 % at 16:00; line at 20 %",
    );
  });

  it("join what was to what may come at the level now", () => {
    const container = draw();
    const past = container.querySelector("[data-part=past]")?.getAttribute("d") ?? "";
    const fan = container.querySelector("[data-part=fan]")?.getAttribute("d") ?? "";
    const end = past.split("L").pop() ?? "";
    expect(Number(fan.match(/M([\d.]+)/)?.[1])).toBeCloseTo(Number(end.split(",")[0]), 0);
  });

  it("have no high on a day that only falls", () => {
    expect(draw({ high: null }).querySelector("[data-part=high]")).toBeNull();
    expect(draw().querySelector("[data-part=low]")).not.toBeNull();
  });
});
