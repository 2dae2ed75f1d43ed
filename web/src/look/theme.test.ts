import { describe, expect, it } from "vitest";

import { CATALOGUE } from "../api/catalogue";
import { system } from "./theme";

const channel = (value: number): number => {
  const share = value / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
};

/** Relative luminance and contrast as WCAG 2.2 defines them. */
const luminance = (hex: string): number => {
  const [red, green, blue] = [1, 3, 5].map((at) => channel(parseInt(hex.slice(at, at + 2), 16)));
  return 0.2126 * (red ?? 0) + 0.7152 * (green ?? 0) + 0.0722 * (blue ?? 0);
};

const contrast = (one: string, other: string): number => {
  const [light, dark] = [luminance(one), luminance(other)].sort((a, b) => b - a);
  return ((light ?? 0) + 0.05) / ((dark ?? 0) + 0.05);
};

const token = (name: string, night: boolean): string => {
  const conditions = system.tokens.getByName(`colors.${name}`)?.extensions.conditions as
    { base: string; _dark: string } | undefined;
  if (!conditions) throw new Error(`no colour ${name}`);
  return night ? conditions._dark : conditions.base;
};

const HUES = [...new Set(CATALOGUE.storeKinds.map((kind) => kind.hue))];

describe.each([
  ["by day", false],
  ["by night", true],
])("the theme %s", (_, night) => {
  it.each([
    ["ink", "page"],
    ["ink", "raised"],
    ["ink", "sunken"],
    ["soft", "page"],
    ["soft", "raised"],
    ["warn", "page"],
    ["accent", "page"],
    ["onAccent", "accent"],
    ["first", "page"],
  ])("sets %s readable on %s (AA, 4.5)", (text, ground) => {
    expect(contrast(token(text, night), token(ground, night))).toBeGreaterThanOrEqual(4.5);
  });

  it.each(HUES)("draws %s so that it stands against the page and its own wash (AA for lines, 3)", (hue) => {
    const line = token(`hue.${hue}.line`, night);
    expect(contrast(line, token("page", night))).toBeGreaterThanOrEqual(3);
    expect(contrast(line, token(`hue.${hue}.wash`, night))).toBeGreaterThanOrEqual(3);
  });
});

it("is truly dark and warm at night", () => {
  const page = token("page", true);
  expect(luminance(page)).toBeLessThan(0.01);
  expect(parseInt(page.slice(1, 3), 16)).toBeGreaterThan(parseInt(page.slice(5, 7), 16));
});

it("knows the contrast of black on white", () => {
  const grey = (digit: string) => `#${digit.repeat(6)}`;
  expect(contrast(grey("0"), grey("f"))).toBeCloseTo(21, 5);
});
