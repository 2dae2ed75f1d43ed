import { describe, expect, it } from "vitest";

import tables from "./cases.generated.json";
import type { System } from "./shown";
import { asLastTime, isUnclear, type Reads, understand } from "./understand";

type Case = [number, string, string, (number | null)?, (string | null)?, (string | null)?, (number | null)?];

describe("the notation without the server", () => {
  it.each(tables.map((table) => [table.system, table] as const))("is the core's, text for text: %s", (_, table) => {
    const wrong = (table.cases as Case[]).filter(([index, text, first, value, state, words, within]) => {
      const heard = understand(table.stores[index] as Reads, text, table.system as System);
      if (isUnclear(heard)) return value !== undefined || heard.problem !== first;
      if (value === undefined) return true;
      const same = heard.value === value || Math.abs((heard.value ?? 0) - (value ?? 0)) < 1e-9;
      const alike = Math.abs((heard.within ?? 0) - (within ?? 0)) < 1e-9;
      return !(
        heard.method === first &&
        same &&
        alike &&
        heard.state === state &&
        (words === null || heard.words === words)
      );
    });
    const told = wrong.slice(0, 12).map(([index, text, ...rest]) => ({
      text,
      wanted: rest,
      heard: understand(table.stores[index] as Reads, text, table.system as System),
    }));
    expect(told).toEqual([]);
    expect(table.cases.length).toBeGreaterThan(500);
  });

  const [fuel, bank] = [5, 7].map((index) => tables[0]?.stores[index] as Reads);

  it("offers the two things that a number alone may mean, each of which is clear", () => {
    for (const [store, text] of [
      [fuel, "40"],
      [bank, "13"],
    ] as const) {
      const heard = understand(store as Reads, text, "metric");
      if (!isUnclear(heard)) throw new Error(`${text} was taken as ${heard.words}`);
      expect(heard.ways).toHaveLength(2);
      for (const way of heard.ways) expect(isUnclear(understand(store as Reads, way, "metric"))).toBe(false);
    }
  });

  it("takes a number alone as that store was read last, and nothing else", () => {
    const panel = tables[0]?.stores.find((each) => each.gauge === "steps") as Reads;
    const taken = (store: unknown, text: string, lastIn: string | null) =>
      asLastTime(store as Reads, text, "metric", lastIn);
    expect([taken(fuel, "40", "%"), taken(fuel, "40", "L")]).toEqual(["40%", "40 L"]);
    // where it was never read, or read by another way, it is asked; two marks of a panel are both per cent
    expect([taken(fuel, "40", null), taken(fuel, "40", "kg"), taken(panel, "1 light", "%")]).toEqual([
      "40",
      "40",
      "1 light",
    ]);
    expect([taken(fuel, "1,250", "L"), taken(fuel, "40 L", "%"), taken(fuel, "lots", "%")]).toEqual([
      "1,250",
      "40 L",
      "lots",
    ]);
  });

  it("knows a value that may be half typed", () => {
    const complete = (text: string) => {
      const heard = understand(bank as Reads, text, "metric");
      return !isUnclear(heard) && heard.complete;
    };
    expect(["3", "72", "72%", "13.1 V", "full"].map(complete)).toEqual([false, false, true, true, true]);
  });
});
