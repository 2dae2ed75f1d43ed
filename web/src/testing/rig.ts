import type { Schemas } from "../api/client";

export const GALLON = 3.785411784;
const same = (unit: string) => ({ unit, factor: 1, offset: 0 });
const METRIC = { L: same("L"), kg: same("kg"), m: same("m"), degC: same("°C"), km: same("km") };
export const US = { L: { unit: "gal", factor: 1 / GALLON, offset: 0 }, kg: { unit: "lb", factor: 2.2, offset: 0 } };

export const DOC: Schemas["RigDoc"] = {
  name: "Heron",
  timezone: "UTC",
  units: "metric",
  crew: { adults: 2, children: 0, pets: 1 },
  stores: [
    { id: "fresh", kind: "fresh", name: "Fresh water", capacity: 100 },
    { id: "diesel", kind: "fuel", name: "Diesel", capacity: 80, fuel: "diesel" },
  ],
  solar: [],
  sources: [],
  loads: [],
  appliances: [],
};

export const BANK: Schemas["StoreDoc"] = {
  id: "house",
  kind: "battery",
  name: "Bank",
  capacity: 225,
  nominal_v: 6,
  chemistry: "flooded",
};
export const PANEL: Schemas["StoreDoc"] = {
  id: "fresh",
  kind: "fresh",
  name: "Fresh tank",
  capacity: 50 * GALLON,
  gauge: { kind: "steps", marks: [0, 0.33, 0.67, 1] },
};

/** A rig as its view has it, invented. */
export const aRig = (
  doc: Partial<Schemas["RigDoc"]> = {},
  part: Partial<Schemas["RigOut"]> = {},
): Schemas["RigOut"] => ({
  id: 7,
  revision: 12,
  role: "owner",
  sheet: [{ place: "stores.fresh", name: "Fresh water", words: "100 L; line at 5 %, 5 L; no gauge" }],
  doc: { ...DOC, ...doc },
  assumed: ["stores.fresh.capacity"],
  put_aboard: [{ place: "stores.fresh", words: "Fresh water: you said that it is aboard." }],
  checks: [
    { place: "weight", words: "Full tanks weigh about 170 kg.", warns: false },
    { place: "stores.fresh", words: "100 L is 8 days for two.", warns: false },
    { place: "inverter", words: "The inverter's cable is not known.", warns: true },
  ],
  cautions: ["A generator runs outdoors."],
  units: METRIC,
  ...part,
});
