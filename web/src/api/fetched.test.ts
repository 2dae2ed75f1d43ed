import { describe, expect, it } from "vitest";

import { isSettled } from "./fetched";

const answer = (dataUpdatedAt: number, isError = false) =>
  ({ dataUpdatedAt, isError }) as unknown as Parameters<typeof isSettled>[0];

describe("an answer", () => {
  it("that this device remembers is not of now, unless no newer one can be had", () => {
    const yesterday = Date.now() - 24 * 3_600_000;
    expect(isSettled(answer(yesterday))).toBe(false);
    expect(isSettled(answer(Date.now()))).toBe(true);
    expect(isSettled(answer(yesterday, true))).toBe(true);
  });
});
