import type { Schemas } from "../api/client";

/** A store of the round, invented: a panel of thirds on a tank of 130 L. */
export const aStore = (change: Partial<Schemas["RoundStore"]>): Schemas["RoundStore"] => ({
  id: "fresh",
  name: "Fresh water",
  kind: "fresh",
  last: "mark 2/3: 67 to 97 L",
  last_in: null,
  last_at: { at: "2026-11-24T20:06:00+00:00", date: "2026-11-24", time: "20:06" },
  expected: "60 to 80 L",
  ahead: [],
  example: "2/3",
  worth: null,
  hint: "a mark (0, 1/3, 2/3, 1), an amount, full or dry",
  marks: [
    { label: "1/3", text: "33%" },
    { label: "2/3", text: "67%" },
  ],
  reads: {
    name: "Fresh water",
    amounts: "volume",
    gauge: "steps",
    marks: [0, 0.33, 0.67, 1],
    mark_words: ["0", "1/3", "2/3", "1"],
    capacity: 130,
    unit: "L",
    tare_kg: null,
    lightest_kg: 0,
    heaviest_kg: 0,
    kg_per_l: null,
    volts: null,
    way: false,
    acid: false,
    drains: true,
    examples: "a mark (0, 1/3, 2/3, 1), an amount, full or dry",
  },
  ...change,
});
