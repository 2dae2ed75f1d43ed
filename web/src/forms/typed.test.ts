import { describe, expect, it } from "vitest";

import { typedNumber, type Unread } from "./typed";

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
});
