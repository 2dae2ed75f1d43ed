import { expect, it } from "vitest";

import type { Waiting, What } from "./device";
import { factsWaiting, waitsFor } from "./waiting";

const held = (what: What, change: Partial<Waiting> = {}): Waiting => ({
  id: "1",
  account: "mira",
  rig: 7,
  what,
  words: "",
  made_at: "2026-11-25T20:00:00Z",
  off_ms: null,
  saw: 3,
  after: [],
  state: "waiting",
  ...change,
});
const plan = (facts: object, change: Partial<Waiting> = {}) => held({ plan: { on: "2026-11-26", facts } }, change);

it("puts what waits of a date together, later over earlier, and hours one by one", () => {
  const waiting = [
    plan({ sky: "wet", hours: { shore: 3 } }),
    plan({ sky: "clear", hours: { alternator: 1 } }),
    plan({ sky: "mixed" }, { rig: 8 }),
    plan({ sky: "mixed" }, { state: "refused" }),
    held({ day: { on: "2026-11-26", facts: { sky: "mixed" } } }),
  ];
  expect(factsWaiting(waiting, 7, "plan", "2026-11-26")).toEqual({ sky: "clear", hours: { shore: 3, alternator: 1 } });
});

it("says what waits to be done to an entry", () => {
  const entry = { id: "entry-31", kind: "reading" };
  const ref = { kind: "reading", id: "entry-31" };
  expect(waitsFor([], 7, entry)).toBeNull();
  expect(waitsFor([held({ correct: { entry: ref, to: {} } })], 7, entry)).toBe("A correction waits.");
  expect(waitsFor([held({ remove: ref })], 7, entry)).toBe("Waits to be taken out.");
  expect(waitsFor([held({ remove: { ...ref, kind: "event" } })], 7, entry)).toBeNull();
});
