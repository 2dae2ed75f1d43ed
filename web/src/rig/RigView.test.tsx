import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../testing/testing";
import { RigView } from "./RigView";

const GALLON = 3.785411784;
const METRIC = { L: { unit: "L", factor: 1, offset: 0 }, kg: { unit: "kg", factor: 1, offset: 0 } };
const US = { L: { unit: "gal", factor: 1 / GALLON, offset: 0 }, kg: { unit: "lb", factor: 2.2, offset: 0 } };

const DOC: Schemas["RigDoc"] = {
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
};

const BANK: Schemas["StoreDoc"] = {
  id: "house",
  kind: "battery",
  name: "Bank",
  capacity: 225,
  nominal_v: 6,
  chemistry: "flooded",
};
const PANEL: Schemas["StoreDoc"] = {
  id: "fresh",
  kind: "fresh",
  name: "Fresh tank",
  capacity: 50 * GALLON,
  gauge: { kind: "steps", marks: [0, 0.33, 0.67, 1] },
};

const aRig = (doc: Partial<Schemas["RigDoc"]> = {}, part: Partial<Schemas["RigOut"]> = {}): Schemas["RigOut"] => ({
  id: 7,
  role: "owner",
  doc: { ...DOC, ...doc },
  assumed: ["stores.fresh.capacity"],
  checks: [
    { place: "weight", words: "Full tanks weigh about 170 kg.", warns: false },
    { place: "stores.fresh", words: "100 L is 8 days for two.", warns: false },
    { place: "inverter", words: "The inverter's cable is not known.", warns: true },
  ],
  cautions: ["A generator runs outdoors."],
  units: METRIC,
  ...part,
});

const opened = async (rig = aRig(), more: Record<string, unknown> = {}) => {
  const asked = answering({
    "GET /rigs/7": rig,
    "GET /gauges": [{ store: "fresh", readings: 20, words: ["Good to about 4 % of capacity."], marks: [] }],
    "GET /crew": [{ username: "mira", role: "owner" }],
    "POST /checks": [{ place: "weight", words: "Full tanks weigh about 190 kg.", warns: false }],
    "PUT /rigs/7": rig,
    ...more,
  });
  show(<RigView />);
  await screen.findByRole("heading", { level: 1 });
  const kept = () => asked.find((each) => each.method === "PUT")?.body as Schemas["RigDoc"] | undefined;
  const saved = async () => {
    fireEvent.click(await screen.findByRole("button", { name: "Save the changes" }));
    await waitFor(() => expect(kept()).toBeDefined());
    return kept() as Schemas["RigDoc"];
  };
  return { asked, kept, saved };
};

const type = (label: string, value: string, where: HTMLElement = document.body) => {
  const field = within(where).getByLabelText(label);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
  return field;
};
const choose = (label: string, value: string, where: HTMLElement = document.body) =>
  fireEvent.change(within(where).getByLabelText(label), { target: { value } });
const part = (title: string) => screen.getByRole("region", { name: title });
const touch = (name: string | RegExp, where: HTMLElement = document.body) =>
  fireEvent.click(within(where).getByRole("button", { name }));
const bar = () => screen.findByRole("region", { name: "Changes not saved yet" });

describe("what is aboard", () => {
  it("says beside each thing what follows from it, what is assumed, and what its gauge is worth", async () => {
    await opened();
    expect(part("Stores and their lines")).toHaveTextContent("Full tanks weigh about 170 kg.");
    const fresh = screen.getByRole("group", { name: "Fresh water" });
    expect(fresh).toHaveTextContent("100 L is 8 days for two.");
    expect(fresh).toHaveTextContent("assumed, common practice");
    expect(await screen.findByText("Gauge: Good to about 4 % of capacity.")).toBeVisible();
    expect(part("Inverter")).toHaveTextContent("The inverter's cable is not known.");
    expect(part("Other ways to charge")).toHaveTextContent("A generator runs outdoors.");
  });

  it("tries a change out before it is saved, and saves the whole of it", async () => {
    const { asked, kept, saved } = await opened();
    type("Adults", "3");
    expect(await bar()).toBeVisible();
    expect(await screen.findByText("Full tanks weigh about 190 kg.")).toBeVisible();
    expect(asked.find((each) => each.path.endsWith("/checks"))?.body).toMatchObject({ crew: { adults: 3, pets: 1 } });
    expect(kept()).toBeUndefined();
    expect(await saved()).toEqual({ ...DOC, crew: { adults: 3, children: 0, pets: 1 } });
    await waitFor(() => expect(screen.queryByRole("button", { name: "Save the changes" })).toBeNull());
  });

  it("discards a change whole", async () => {
    const { kept } = await opened();
    const name = type("Name of the rig", "Grebe");
    await bar();
    touch("Discard");
    await waitFor(() => expect(name).toHaveValue("Heron"));
    expect(kept()).toBeUndefined();
  });

  it("keeps the draft where it is refused, and says at the field which figure", async () => {
    const problem = { status: 422, place: "rig.stores[1].capacity", label: "Capacity", problem: "is too large" };
    await opened(aRig(), { "PUT /rigs/7": problem, "POST /checks": [] });
    const tank = screen.getByRole("group", { name: "Diesel" });
    const field = type("Capacity, L", "90000", tank);
    touch("Save the changes", await bar());
    await waitFor(() => expect(field).toHaveAccessibleDescription("is too large"));
    expect(field).toHaveValue("90000");
  });

  it("says at its field what was emptied, and tries nothing of it", async () => {
    const { asked, kept } = await opened();
    const adults = type("Adults", "");
    touch("Save the changes", await bar());
    await waitFor(() => expect(adults).toHaveAccessibleDescription("Write a number here; it was left empty."));
    expect(adults).toHaveValue("");
    expect(kept()).toBeUndefined();
    expect(asked.some((each) => each.path.endsWith("/checks"))).toBe(false);
  });

  it("adds a store of a kind under an id that is free, as its kind usually is, and removes one", async () => {
    const { saved } = await opened();
    const stores = part("Stores and their lines");
    touch("Add a store", stores);
    choose("Kind of the new store", "battery", stores);
    touch("Add a store", stores);
    touch(/^Remove/, screen.getByRole("group", { name: "Diesel" }));
    const doc = await saved();
    expect(doc.stores.map((store) => store.id)).toEqual(["fresh", "fresh-2", "battery"]);
    expect(doc.stores[1]).toMatchObject({ capacity: 100, gauge: { kind: "steps", marks: [0, 0.33, 0.67, 1] } });
    expect(doc.stores[2]).toMatchObject({ chemistry: "lfp", nominal_v: 12.8 });
  });

  it("adds what charges and what draws", async () => {
    const { saved } = await opened();
    for (const title of ["Solar arrays", "Other ways to charge", "Loads"]) touch("Add", part(title));
    type("Controller, A", "30", part("Solar arrays"));
    type("Obstruction height, degrees", "12", part("Solar arrays"));
    choose("Kind", "generator", part("Other ways to charge"));
    choose("Burns from", "diesel", part("Other ways to charge"));
    type("Burns, L/h", "0.6", part("Other ways to charge"));
    type("Name", "Fridge", part("Loads"));
    choose("Kind", "fridge", part("Loads"));
    choose("When", "night", part("Loads"));
    const doc = await saved();
    expect(doc.solar).toMatchObject([{ id: "array", watts: 100, controller_amps: 30, horizon_deg: 12 }]);
    expect(doc.sources).toMatchObject([{ kind: "generator", amps: 20, fuel_store: "diesel", fuel_l_per_h: 0.6 }]);
    expect(doc.loads).toMatchObject([{ name: "Fridge", kind: "fridge", when: "night", via: "dc" }]);
  });

  it("has an inverter or none, and takes its efficiency in per cent", async () => {
    const { saved } = await opened();
    touch("Add an inverter");
    type("Efficiency, %", "88");
    type("Surge, W", "2 400");
    choose("It is on", "always");
    expect((await saved()).inverter).toEqual({
      watts: 1000,
      idle_watts: 10,
      efficiency: 0.88,
      surge_watts: 2400,
      always_on: true,
    });
  });

  it("is only looked at by the crew", async () => {
    await opened(aRig({}, { role: "crew" }));
    expect(screen.getByText(/You are crew on this rig/)).toBeVisible();
    expect(screen.getByLabelText("Adults")).toBeDisabled();
    expect(screen.getByRole("button", { name: "Add a store" })).toBeDisabled();
    expect(screen.queryByLabelText("Account to add")).toBeNull();
  });
});

describe("a store's fields", () => {
  const american = (store: Schemas["StoreDoc"]) => opened(aRig({ stores: [store], units: "us" }, { units: US }));

  it("show and take amounts in the user's units and keep litres, also of what an hour burns", async () => {
    const { saved } = await american(PANEL);
    expect(screen.getByLabelText("Capacity, gal")).toHaveValue("50");
    type("Capacity, gal", "60");
    touch("Add", part("Other ways to charge"));
    type("Burns, gal/h", "0.5");
    const doc = await saved();
    expect(doc.stores[0]?.capacity).toBeCloseTo(60 * GALLON, 6);
    expect(doc.sources?.[0]?.fuel_l_per_h).toBeCloseTo(0.5 * GALLON, 6);
  });

  it("take a mark measured while filling as a share of the tank", async () => {
    const { saved } = await american(PANEL);
    type("Measured while filling: mark 67 % lights at, gal", "29");
    expect((await saved()).stores[0]?.gauge).toEqual({ kind: "steps", marks: [0, 0.33, 0.58, 1] });
  });

  it("say which marks would be right", async () => {
    const { kept } = await american(PANEL);
    const field = type("Marks, shares of full", "0, 0.7, 0.3, 1");
    await waitFor(() => expect(field).toHaveAccessibleDescription("Write marks that rise."));
    type("Marks, shares of full", "0, half, 1");
    await waitFor(() => expect(field).toHaveAccessibleDescription(/"half" is not a number/));
    expect(field).toHaveValue("0, half, 1");
    expect(kept()).toBeUndefined();
  });

  it("leave the line to its kind when the field is emptied, and say so", async () => {
    const { saved } = await opened(aRig({ stores: [{ ...PANEL, limit: 0.1 }] }));
    expect(screen.queryByText("by kind, common practice")).toBeNull();
    type("Lode line, % of capacity", "");
    expect(screen.getByText("by kind, common practice")).toBeVisible();
    expect((await saved()).stores[0]?.limit).toBeNull();
  });

  it("offer only gauges that fit the kind, and give another what it needs", async () => {
    const { saved } = await american(PANEL);
    const gauge = screen.getByLabelText("Gauge");
    expect(within(gauge).queryByRole("option", { name: /shunt/ })).toBeNull();
    fireEvent.change(gauge, { target: { value: "sensor" } });
    expect((await saved()).stores[0]?.gauge).toEqual({ kind: "sensor", resolution: 0.02 });
  });

  it("write a bank as units in series and parallel from what it is", async () => {
    const { saved } = await opened(aRig({ stores: [BANK] }));
    touch("Give it as units in series and parallel");
    type("Strings in parallel", "3");
    expect((await saved()).stores[0]).toMatchObject({
      capacity: null,
      layout: { unit_v: 6, unit_ah: 225, series: 1, parallel: 3 },
    });
  });

  it("keep where a bank sits only where it is said", async () => {
    const { saved } = await opened(aRig({ stores: [BANK] }));
    choose("Where it sits", "warm");
    expect((await saved()).stores[0]?.kept_warm).toBe(true);
  });
});

describe("a bank that is rated otherwise", () => {
  it("is taken as the server reckons it, at its cells' volts", async () => {
    const { asked, saved } = await opened(aRig({ stores: [{ ...BANK, nominal_v: 12 }] }), {
      "POST /rating": { capacity_ah: 6.17, words: "20,000 mAh at 3.7 V are 74 Wh." },
    });
    touch("It is rated in Wh or mAh");
    choose("In", "mAh");
    type("Rated", "20000");
    touch("Take it as the capacity");
    expect(await screen.findByText(/are 74 Wh/)).toBeVisible();
    const rating = asked.find((each) => each.path.endsWith("/rating"))?.body;
    expect(rating).toEqual({ amount: 20000, unit: "mAh", nominal_v: 12, cell_v: 3.7 });
    expect((await saved()).stores[0]?.capacity).toBe(6.17);
  });

  it("has no cell volts in Wh, and asks nothing of no number", async () => {
    const { asked } = await opened(aRig({ stores: [BANK] }));
    touch("It is rated in Wh or mAh");
    expect(screen.queryByLabelText("At its cells' volts, V")).toBeNull();
    touch("Take it as the capacity");
    await waitFor(() => expect(screen.getByLabelText("Rated")).toHaveAccessibleDescription(/it was left empty/));
    expect(asked.some((each) => each.path.endsWith("/rating"))).toBe(false);
  });
});

describe("accounts on the rig", () => {
  it("are put on by name and taken off again, the owner never", async () => {
    const { asked } = await opened(aRig(), {
      "GET /crew": [
        { username: "mira", role: "owner" },
        { username: "joss", role: "crew" },
      ],
      "POST /crew": {},
      "DELETE /crew/joss": {},
    });
    await screen.findByText("joss, crew");
    expect(screen.queryByRole("button", { name: "Remove mira" })).toBeNull();
    touch("Remove joss");
    type("Account to add", "ada");
    touch("Add to the crew");
    await waitFor(() => expect(asked.find((each) => each.method === "POST")?.body).toEqual({ username: "ada" }));
    expect(asked.some((each) => each.method === "DELETE" && each.path.endsWith("/crew/joss"))).toBe(true);
  });

  it("say at the field why one could not be put on", async () => {
    await opened(aRig(), {
      "POST /crew": { status: 422, place: "username", label: "Account", problem: "there is no account ada here" },
    });
    const field = type("Account to add", "ada");
    touch("Add to the crew");
    await waitFor(() => expect(field).toHaveAccessibleDescription("there is no account ada here"));
  });
});
