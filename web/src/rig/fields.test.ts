import { describe, expect, it } from "vitest";

import { baseUnit, freshId, newStore, shownIn } from "./fields";

const units = {
  L: { unit: "gal", factor: 1 / 3.785411784, offset: 0 },
  degC: { unit: "°F", factor: 1.8, offset: 32 },
};

describe("units on the Rig screen", () => {
  it("gives back the litres that were shown as gallons", () => {
    const gallons = shownIn("L", units);
    expect(gallons.show(189.2705892)).toBeCloseTo(50, 9);
    expect(gallons.keep(50)).toBeCloseTo(189.2705892, 9);
  });

  it("knows that nothing is not zero", () => {
    expect(shownIn("degC", units).show(null)).toBeNull();
    expect(shownIn("degC", units).show(0)).toBe(32);
  });

  it("shows a supply in its own unit", () => {
    const food = newStore("supply", []);
    expect(shownIn(baseUnit(food), units).unit).toBe("days of food");
    expect(shownIn(baseUnit(food), units).keep(7)).toBe(7);
  });
});

describe("a new store", () => {
  it("gets an id that is not taken", () => {
    expect(freshId("grey", ["grey", "grey-2"])).toBe("grey-3");
    expect(newStore("grey", ["grey"]).id).toBe("grey-2");
  });
});
