import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { aRig, BANK, DOC, GALLON, PANEL, US } from "../testing/rig";
import { answering, show } from "../testing/testing";
import { RigView } from "./RigView";

const opened = async (rig = aRig(), more: Record<string, unknown> = {}) => {
  const asked = answering({
    "GET /rigs/7": rig,
    "GET /gauges": [{ store: "fresh", readings: 20, words: ["Good to about 4 % of capacity."], marks: [] }],
    "GET /crew": [{ username: "mira", role: "owner" }],
    "GET /invitations": [],
    "POST /checks": {
      checks: [{ place: "weight", words: "Full tanks weigh about 190 kg.", warns: false }],
      refused: null,
    },
    "PUT /rigs/7?saw=12": rig,
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
/** Open one part for change. */
const look = (name: string) => {
  const row = screen.getByRole("group", { name });
  const head = within(row).getAllByRole("button")[0];
  if (head?.getAttribute("aria-expanded") === "false") fireEvent.click(head);
  return row;
};
const CREW = "Crew, place and units";
const bar = () => screen.findByRole("region", { name: "Changes not saved yet" });

describe("what is aboard", () => {
  it("is a sheet: a line a part, what its gauge is worth, what is assumed and what warns", async () => {
    await opened();
    expect(part("Stores and their lines")).toHaveTextContent("Full tanks weigh about 170 kg.");
    const fresh = screen.getByRole("group", { name: "Fresh water" });
    expect(fresh).toHaveTextContent("1 Fresh waterassumed100 L; line at 5 %, 5 L; no gauge");
    expect(await screen.findByText("Gauge: Good to about 4 % of capacity.")).toBeVisible();
    expect(screen.queryByLabelText("Capacity, L")).toBeNull();
  });

  it("opens one part at a time, with what follows from it beside", async () => {
    await opened();
    const fresh = look("Fresh water");
    expect(fresh).toHaveTextContent("100 L is 8 days for two.");
    look("Diesel");
    expect(screen.getAllByLabelText("Capacity, L")).toHaveLength(1);
    expect(fresh).not.toHaveTextContent("100 L is 8 days for two.");
  });

  it("takes what was assumed as right at one touch", async () => {
    const { asked } = await opened(aRig(), { "POST /confirm": aRig({}, { assumed: [] }) });
    touch("That is right", look("Fresh water"));
    await waitFor(() => expect(screen.queryByText("assumed")).toBeNull());
    expect(asked.find((each) => each.path.endsWith("/confirm"))?.body).toEqual({ paths: ["stores.fresh.capacity"] });
  });

  it("does not put a draft over what another hand saved meanwhile, and lets the person choose", async () => {
    const theirs = aRig({ name: "Heron II" }, { revision: 15 });
    const { asked } = await opened(aRig(), {
      "PUT /rigs/7?saw=12": { status: 409, place: "", label: "", problem: "changed", stands: theirs },
      "PUT /rigs/7?saw=15": aRig({ name: "Grebe" }, { revision: 16 }),
    });
    look(CREW);
    type("Name of the rig", "Grebe");
    touch("Save the changes", await bar());
    const dialog = await screen.findByRole("dialog", { name: "Somebody else changed this rig meanwhile" });
    expect(dialog).toHaveTextContent(CREW);
    touch("Put mine in its place", dialog);
    await waitFor(() => expect(asked.some((each) => each.path.endsWith("?saw=15"))).toBe(true));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
  });

  it("opens the part in which something is wrong", async () => {
    const problem = { status: 422, place: "rig.stores[1].capacity", label: "Capacity", problem: "is too large" };
    await opened(aRig(), { "PUT /rigs/7?saw=12": problem, "POST /checks": { checks: [], refused: null } });
    look(CREW);
    type("Name of the rig", "Grebe");
    touch("Save the changes", await bar());
    await waitFor(() => expect(screen.getByLabelText("Capacity, L")).toHaveAccessibleDescription("is too large"));
  });

  it("tries a change out before it is saved, and saves the whole of it", async () => {
    const { asked, kept, saved } = await opened();
    look(CREW);
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
    look(CREW);
    const name = type("Name of the rig", "Grebe");
    await bar();
    touch("Discard");
    await waitFor(() => expect(name).toHaveValue("Heron"));
    expect(kept()).toBeUndefined();
  });

  it("keeps the draft where it is refused, and says at the field which figure", async () => {
    const problem = { status: 422, place: "rig.stores[1].capacity", label: "Capacity", problem: "is too large" };
    await opened(aRig(), { "PUT /rigs/7?saw=12": problem, "POST /checks": { checks: [], refused: null } });
    const tank = look("Diesel");
    const field = type("Capacity, L", "90000", tank);
    touch("Save the changes", await bar());
    await waitFor(() => expect(field).toHaveAccessibleDescription("is too large"));
    expect(field).toHaveValue("90000");
  });

  it("says at its field what was emptied, and tries nothing of it", async () => {
    const { asked, kept } = await opened();
    look(CREW);
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
    touch(/^Remove/, look("Diesel"));
    const doc = await saved();
    expect(doc.stores.map((store) => store.id)).toEqual(["fresh", "fresh-2", "battery"]);
    expect(doc.stores[1]).toMatchObject({ capacity: 100, gauge: { kind: "steps", marks: [0, 0.33, 0.67, 1] } });
    expect(doc.stores[2]).toMatchObject({ chemistry: "lfp", nominal_v: 12.8 });
  });

  it("adds rubbish or food by one touch, counted as it usually is", async () => {
    const { saved } = await opened();
    touch("Rubbish", screen.getByRole("group", { name: "Add a supply" }));
    touch("Food", screen.getByRole("group", { name: "Add a supply" }));
    const [, , rubbish, food] = (await saved()).stores;
    expect(rubbish).toMatchObject({ id: "rubbish", kind: "supply", unit: "bags", sense: "fills", capacity: 3 });
    expect(food).toMatchObject({ id: "food", unit: "days of food", sense: "drains" });
  });

  it("says of a grey tank what drains into it, what it runs over into, and where it hangs", async () => {
    const grey: Schemas["StoreDoc"] = { id: "grey", kind: "grey", name: "Grey tank", capacity: 80, reads_from: 0.33 };
    const { saved } = await opened(
      aRig({ stores: [...DOC.stores, grey] }, { sheet: [{ place: "stores.grey", name: "Grey tank", words: "80 L" }] }),
    );
    const row = look("Grey tank");
    fireEvent.click(within(row).getByLabelText("urine"));
    fireEvent.click(within(row).getByLabelText("the sink"));
    fireEvent.click(within(row).getByLabelText("urine"));
    type("Tote or bucket that it runs over into, L", "20", row);
    choose("Inside or outside", "yes", row);
    expect(within(row).getByLabelText("Its gauge shows when it is empty, %")).toHaveValue("33");
    expect((await saved()).stores[2]).toMatchObject({ takes: ["sink"], reserve: 20, outside: true, reads_from: 0.33 });
  });

  it("says of a cassette that a second one is aboard", async () => {
    const cassette: Schemas["StoreDoc"] = { id: "cassette", kind: "cassette", name: "Cassette", capacity: 19 };
    const sheet = [{ place: "stores.cassette", name: "Cassette", words: "19 L" }];
    const { saved } = await opened(aRig({ stores: [...DOC.stores, cassette] }, { sheet }));
    type("Spare, empty, beside it, L", "19", look("Cassette"));
    expect((await saved()).stores[2]).toMatchObject({ reserve: 19 });
  });

  it("adds what charges and what draws", async () => {
    const { saved } = await opened();
    touch("Add an array");
    type("Controller, A", "30");
    type("Obstruction height, degrees", "12");
    touch("Add a way to charge");
    choose("Kind", "generator");
    choose("Burns from", "diesel");
    type("Burns, L/h", "0.6");
    touch("Add a load");
    type("Name", "Fridge");
    choose("Kind", "fridge");
    choose("When", "night");
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
    expect(screen.getByText("What is aboard is changed by its owner.")).toBeVisible();
    expect(look("Fresh water")).toHaveTextContent("100 L is 8 days for two.");
    expect(screen.queryByLabelText("Capacity, L")).toBeNull();
    expect(screen.queryByRole("button", { name: "Add a store" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Make a link" })).toBeNull();
    expect(screen.queryByRole("button", { name: /^Delete this rig/ })).toBeNull();
  });
});

describe("a store's fields", () => {
  const american = (store: Schemas["StoreDoc"]) => opened(aRig({ stores: [store], units: "us" }, { units: US }));

  it("show and take amounts in the user's units and keep litres, also of what an hour burns", async () => {
    const { saved } = await american(PANEL);
    look("Fresh tank");
    expect(screen.getByLabelText("Capacity, gal")).toHaveValue("50");
    type("Capacity, gal", "60");
    touch("Add a way to charge");
    type("Burns, gal/h", "0.5");
    const doc = await saved();
    expect(doc.stores[0]?.capacity).toBeCloseTo(60 * GALLON, 6);
    expect(doc.sources?.[0]?.fuel_l_per_h).toBeCloseTo(0.5 * GALLON, 6);
  });

  it("take a mark measured while filling as a share of the tank", async () => {
    const { saved } = await american(PANEL);
    look("Fresh tank");
    type("Measured while filling: mark 67 % lights at, gal", "29");
    expect((await saved()).stores[0]?.gauge).toEqual({ kind: "steps", marks: [0, 0.33, 0.58, 1] });
  });

  it("say which marks would be right", async () => {
    const { kept } = await american(PANEL);
    look("Fresh tank");
    const field = type("Marks, shares of full", "0, 0.7, 0.3, 1");
    await waitFor(() => expect(field).toHaveAccessibleDescription("Write marks that rise."));
    type("Marks, shares of full", "0, half, 1");
    await waitFor(() => expect(field).toHaveAccessibleDescription(/"half" is not a number/));
    expect(field).toHaveValue("0, half, 1");
    expect(kept()).toBeUndefined();
  });

  it("leave the line to its kind when the field is emptied, and say so", async () => {
    const { saved } = await opened(aRig({ stores: [{ ...PANEL, limit: 0.1 }] }));
    look("Fresh tank");
    expect(screen.queryByText("by kind, common practice")).toBeNull();
    type("Lode line, % of capacity", "");
    expect(screen.getByText("by kind, common practice")).toBeVisible();
    expect((await saved()).stores[0]?.limit).toBeNull();
  });

  it("offer only gauges that fit the kind, and give another what it needs", async () => {
    const { saved } = await american(PANEL);
    look("Fresh tank");
    const gauge = screen.getByLabelText("Gauge");
    expect(within(gauge).queryByRole("option", { name: /shunt/ })).toBeNull();
    fireEvent.change(gauge, { target: { value: "sensor" } });
    expect((await saved()).stores[0]?.gauge).toEqual({ kind: "sensor", resolution: 0.02 });
  });

  it("write a bank as units in series and parallel from what it is", async () => {
    const { saved } = await opened(aRig({ stores: [BANK] }));
    look("Bank");
    touch("Give it as units in series and parallel");
    type("Strings in parallel", "3");
    expect((await saved()).stores[0]).toMatchObject({
      capacity: null,
      layout: { unit_v: 6, unit_ah: 225, series: 1, parallel: 3 },
    });
  });

  it("keep where a bank sits only where it is said", async () => {
    const { saved } = await opened(aRig({ stores: [BANK] }));
    look("Bank");
    choose("Where it sits", "yes");
    expect((await saved()).stores[0]?.kept_warm).toBe(true);
  });
});

describe("a bank that is rated otherwise", () => {
  it("is taken as the server reckons it, at its cells' volts", async () => {
    const { asked, saved } = await opened(aRig({ stores: [{ ...BANK, nominal_v: 12 }] }), {
      "POST /rating": { capacity_ah: 6.17, words: "20,000 mAh at 3.7 V are 74 Wh." },
    });
    look("Bank");
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
    look("Bank");
    touch("It is rated in Wh or mAh");
    expect(screen.queryByLabelText("At its cells' volts, V")).toBeNull();
    touch("Take it as the capacity");
    await waitFor(() => expect(screen.getByLabelText("Rated")).toHaveAccessibleDescription(/it was left empty/));
    expect(asked.some((each) => each.path.endsWith("/rating"))).toBe(false);
  });
});

describe("accounts on the rig", () => {
  const crew = [
    { username: "mira", role: "owner" },
    { username: "joss", role: "crew" },
  ];

  it("come aboard by a link and a code, for a role", async () => {
    const { asked } = await opened(aRig(), {
      "POST /invitations": {
        path: "/join#abc",
        expires: { at: "2026-12-02T20:00:00Z", date: "2026-12-02", time: "20:00" },
        code: ["101", "010", "101"],
      },
    });
    choose("Invite as", "reader");
    touch("Make a link");
    expect(await screen.findByText(/\/join#abc$/)).toBeVisible();
    expect(screen.getByRole("img", { name: "The link as a QR code" })).toBeVisible();
    expect(screen.getByText("It works once, until Wed 2 Dec, 20:00.")).toBeVisible();
    const made = asked.find((each) => each.method === "POST" && each.path.endsWith("/invitations"));
    expect(made?.body).toEqual({ role: "reader" });
  });

  it("may still come by what is open, until it is ended", async () => {
    const { asked } = await opened(aRig(), {
      "GET /invitations": [
        { id: 4, role: "crew", by: "mira", expires: { at: "2026-12-02T20:00:00Z", date: "2026-12-02", time: "20:00" } },
      ],
      "DELETE /invitations/4": null,
    });
    expect(await screen.findByText("as crew, by mira, until Wed 2 Dec, 20:00")).toBeVisible();
    touch("End it");
    await waitFor(() => expect(asked.some((each) => each.method === "DELETE")).toBe(true));
  });

  it("are given another role or taken off, one's own never", async () => {
    const { asked } = await opened(aRig(), { "GET /crew": crew, "PUT /crew/joss": crew, "DELETE /crew/joss": crew });
    choose((await screen.findByLabelText("Role of joss")) && "Role of joss", "reader");
    await waitFor(() => expect(asked.find((each) => each.method === "PUT")?.body).toEqual({ role: "reader" }));
    expect(screen.queryByRole("button", { name: "Remove mira" })).toBeNull();
    touch("Remove joss");
    await waitFor(() => expect(asked.some((each) => each.method === "DELETE")).toBe(true));
  });

  it("are left only by who is not the only owner", async () => {
    await opened(aRig(), { "GET /crew": crew });
    await screen.findByText("joss");
    expect(screen.queryByRole("button", { name: /^Leave this crew/ })).toBeNull();
  });

  it("end with the rig only by its name, which is written out", async () => {
    const { asked } = await opened(aRig(), { "POST /delete": {} });
    touch("Delete this rig ...");
    const sure = screen.getByRole("button", { name: "Delete it for good" });
    expect(screen.getByRole("link", { name: "logbook file" })).toHaveAttribute("href", "/api/rigs/7/export");
    type("Write its name to be sure: Heron", "heron");
    expect(sure).toBeDisabled();
    type("Write its name to be sure: Heron", "Heron");
    fireEvent.click(sure);
    await waitFor(() => expect(asked.find((each) => each.path.endsWith("/delete"))?.body).toEqual({ name: "Heron" }));
  });
});
