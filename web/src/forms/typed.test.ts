import { describe, expect, it } from "vitest";

import { type Reads, typedNumber, type Unread } from "./typed";

describe("a typed number", () => {
  it.each([
    ["12", 12],
    [" 12.5 ", 12.5],
    ["12,5", 12.5],
    [".5", 0.5],
    ["0,125", 0.125],
    ["1 250", 1250],
    ["1\u202f250,5", 1250.5],
    ["1'250", 1250],
    ["1,250.5", 1250.5],
    ["1.250,5", 1250.5],
    ["12.345", 12.345],
    ["-3", -3],
    ["−3,5", -3.5],
  ])("%s is %d", (text, value) => {
    expect(typedNumber(text)).toBe(value);
  });

  it("may be left out", () => {
    expect(typedNumber("  ")).toBeNull();
  });

  it("is asked about where a comma can be read two ways", () => {
    expect((typedNumber("1,250") as Unread).problem).toBe('"1,250" may be 1250 or 1.25; write it one of these ways.');
  });

  it.each(["abc", "1.2.3.4x", "12 L", "1,2,3", "--3", "1e3", "."])("%s is none, and is said to be none", (text) => {
    expect(typedNumber(text)).toEqual({ text, problem: `"${text}" is not a number; write one such as 12.5.` });
  });

  it.each<[string, Reads, number]>([
    ["1.1 kWh", { unit: "Wh" }, 1100],
    ["1100 Wh", { unit: "Wh" }, 1100],
    ["1,1kwh", { unit: "Wh" }, 1100],
    ["84 km", { unit: "km" }, 84],
    ["52,2 miles", { unit: "km" }, 84.0077568],
    ["1:20", { unit: "h" }, 4 / 3],
    ["1 h 20", { unit: "h" }, 4 / 3],
    ["1h20min", { unit: "h" }, 4 / 3],
    ["45 min", { unit: "h" }, 0.75],
    ["1:20", { unit: "min" }, 80],
    ["2 hours", { unit: "h a day" }, 2],
    ["22:30", { unit: "h" }, 22.5],
    ["10 pm", { unit: "h" }, 22],
    ["12:15 am", { unit: "h" }, 0.25],
    ["12 L", { unit: "L" }, 12],
    ["2 gal", { unit: "L" }, 7.570823568],
    ["2 gal", { unit: "L", system: "uk" }, 9.09218],
    ["10 L", { unit: "gal", system: "us" }, 2.64172052358],
    ["500 g", { unit: "kg" }, 0.5],
    ["2.2 lb", { unit: "kg" }, 0.997903214],
    ["−8 °C", { unit: "°C" }, -8],
    ["–8", { unit: "°C" }, -8],
    ["17 f", { unit: "°C" }, -25 / 3],
    ["-8 c", { unit: "°F" }, 17.6],
    ["30 %", { unit: "%" }, 30],
    ["1.2 kW", { unit: "W" }, 1200],
    ["1 200 W", { unit: "W" }, 1200],
  ])("%s in a field of %o is %d", (text, reads, value) => {
    expect(typedNumber(text, reads)).toBeCloseTo(value, 8);
  });

  it("of another kind than is asked is refused with what is asked", () => {
    expect((typedNumber("5 kg", { unit: "L" }) as Unread).problem).toBe('"5 kg" is not in L, which is asked here.');
    expect((typedNumber("lots", { unit: "h" }) as Unread).problem).toBe(
      '"lots" is not a number; write one such as 12.5, or 12.5 h.',
    );
  });
});
