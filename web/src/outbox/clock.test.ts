import { afterEach, beforeEach, expect, it, vi } from "vitest";

import { agoOf, clockOff, hearClock } from "./clock";

const NOW = new Date("2026-11-25T21:00:00Z");
const HOUR_MS = 3_600_000;
const answered = (date: string) => new Response("", { headers: { Date: new Date(date).toUTCString() } });

beforeEach(() => void vi.useFakeTimers({ toFake: ["Date"], now: NOW }));
afterEach(() => void vi.useRealTimers());

it("tells how long ago something was made, also on a device whose clock is off all the time", () => {
  hearClock(answered("2026-11-25T18:00:00Z"));
  expect(clockOff()).toBe(-3 * HOUR_MS);
  expect(agoOf("2026-11-25T20:40:00Z", -3 * HOUR_MS)).toBe(20 * 60);
});

it("and where the clock was set right while it waited", () => {
  hearClock(answered("2026-11-25T21:00:00Z"));
  // made at what the device took for 17:40, three hours behind
  expect(agoOf("2026-11-25T17:40:00Z", 3 * HOUR_MS)).toBe(20 * 60);
});

it("takes a slow answer for no setting of the clock, and an unknown one for none", () => {
  hearClock(answered("2026-11-25T21:00:20Z"));
  expect(agoOf("2026-11-25T20:40:00Z", 0)).toBe(20 * 60);
  expect(agoOf("2026-11-25T20:40:00Z", null)).toBe(20 * 60);
});
