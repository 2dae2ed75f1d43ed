import { screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { anEnergy } from "../testing/energy";
import { asWideAs, show } from "../testing/testing";
import { HoursDrawing } from "./HoursDrawing";

const hour = (at: string, p50: number) => ({ at, p10: p50 - 0.05, p50, p90: p50 + 0.05 });
const energy = anEnergy({
  past: [hour("2026-11-25T12:00:00+00:00", 0.8), hour("2026-11-25T20:00:00+00:00", 0.55)],
  hours: [hour("2026-11-26T08:00:00+00:00", 0.6), hour("2026-11-26T16:00:00+00:00", 0.9)],
  high: { at: "2026-11-26T16:00:00+00:00", p10: 0.85, p90: 0.95, words: "high 85 to 95 %, 16:00" },
});

const draw = (change: Partial<Schemas["EnergyOut"]> = {}) =>
  show(<HoursDrawing energy={{ ...energy, ...change }} />).container;

beforeEach(() => asWideAs(1056));
afterEach(() => vi.restoreAllMocks());

describe("the hours of a bank", () => {
  it("are said in words, and their nights and turns are named", () => {
    const container = draw();
    expect(screen.getByRole("img")).toHaveAccessibleName(energy.hours_words);
    for (const words of ["Thu 26", "low 40 to 50 %, 07:00", "high 85 to 95 %, 16:00", "line 20 %", "now 20:00"])
      expect(container).toHaveTextContent(words);
  });

  it("join what was to what may come at the level now", () => {
    const container = draw();
    const path = (part: string) => container.querySelector(`[data-part=${part}]`)?.getAttribute("d") ?? "";
    const end = path("past").split("L").pop() ?? "";
    expect(Number(/M([\d.]+)/.exec(path("fan"))?.[1])).toBeCloseTo(Number(end.split(",")[0]), 0);
  });

  it("have no high on a day that only falls", () => {
    expect(draw({ high: null }).querySelector("[data-part=high]")).toBeNull();
    expect(draw().querySelector("[data-part=low]")).not.toBeNull();
  });
});
