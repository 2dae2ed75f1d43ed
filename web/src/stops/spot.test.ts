import { describe, expect, it } from "vitest";

import { draftOf, priceOf, spotOf } from "./spot";

const FORM = {
  spot: {
    id: "tap",
    name: "Tap",
    lat: 54,
    lon: -2,
    services: { water: { l_per_min: 8, drinkable: true } },
    opening_hours: "Mo 08:00-12:00",
    closed_months: [12, 1],
    note: "Slow",
  },
  plain: [{ day: "Mo", opens: "08:00", closes: "12:00" }],
} as unknown as Parameters<typeof draftOf>[0];

describe("the form of a place", () => {
  it("gives back what it was opened with", () => {
    const { spot, plain } = spotOf(draftOf(FORM, null), "tap", null);
    expect(spot).toMatchObject({ id: "tap", services: { water: { l_per_min: 8, drinkable: true } }, note: "Slow" });
    expect(spot.closed_months).toEqual([1, 12]);
    expect(plain).toEqual([{ day: "Mo", opens: "08:00", closes: "12:00" }]);
  });

  it("offers what is ticked alone, and keeps no empty figure", () => {
    const draft = { ...draftOf(FORM, null), offered: ["grey", "water"] as ("grey" | "water")[] };
    draft.services["water"] = { l_per_min: null, drinkable: true };
    expect(spotOf(draft, "tap", null).spot.services).toEqual({ grey: {}, water: { drinkable: true } });
  });

  it("is always open where that was said", () => {
    const { spot, plain } = spotOf({ ...draftOf(FORM, null), hours: "always" }, "tap", null);
    expect([spot.opening_hours, plain]).toEqual([null, null]);
  });

  it("begins where the rig stands", () => {
    expect(draftOf(null, { name: "Here", lat: 1, lon: 2 } as never)).toMatchObject({ lat: 1, lon: 2, hours: "always" });
  });

  it("shows a price for the unit that people buy in", () => {
    const price = priceOf({ unit: "gal", factor: 0.264 });
    expect(price.keep(price.show(2) as number)).toBeCloseTo(2);
  });
});
