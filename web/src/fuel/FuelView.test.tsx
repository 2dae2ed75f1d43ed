import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { aFuel } from "../testing/fuel";
import { aRig } from "../testing/rig";
import { answering, asWideAs, ME, READER, show, writesOf } from "../testing/testing";
import { FuelView } from "./FuelView";

beforeEach(() => asWideAs(600));
afterEach(() => vi.restoreAllMocks());

const BLUE = { id: "blue", name: "Blue bottle", store: "gas", holds: 11, tare_kg: 12.1 };
const STORES = aRig().doc.stores;
const RIG = aRig({
  stores: [...STORES, { id: "gas", kind: "gas", name: "Gas bottle", capacity: 11, fuel: "propane", buffer_days: 2 }],
  spares: [BLUE],
});

const opened = async (fuel = aFuel(), answers: Record<string, unknown> = {}, me = ME) => {
  const wire = answering({
    "GET /fuel": fuel,
    "POST /fuel/run": { answer: "no", words: ["No. It takes 2.6 L of Diesel.", "24 L would be left."] },
    "GET /rigs/7": RIG,
    "PUT /rigs/7?saw=12": { ...RIG, revision: 13 },
    "PUT /rigs/7?saw=13": { ...RIG, revision: 14 },
    "POST /fuel/accept?saw=3": { revision: 4 },
    ...answers,
  });
  const page = show(<FuelView />, "/", me);
  await screen.findByRole("heading", { level: 1 });
  return { wire, ...page };
};
const saved = (wire: ReturnType<typeof answering>) =>
  wire.filter((each) => each.method === "PUT").map((each) => each.body as Schemas["RigDoc"]);
const sent = (wire: ReturnType<typeof answering>, end: string) =>
  wire.filter((each) => each.path.includes(end) && each.method !== "GET").map((each) => each.body);
const type = (label: string | RegExp, text: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value: text } });
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole("button", { name }));

describe("the fuel view", () => {
  it("says how many nights, what ends them and what a lever buys", async () => {
    await opened();
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("Heat for 2 to 4 nights");
    expect(screen.getByText(/Diesel ends the heat first/)).toBeVisible();
    const needs = within(screen.getByRole("list", { name: "What the heat needs" })).getAllByRole("listitem");
    expect(needs[0]).toHaveTextContent("first: 70 %");
    expect(needs[1]).toHaveTextContent("not first");
    expect(screen.getByText(/Heating 2 °C down: 7 hours more/)).toBeVisible();
    expect(screen.getByText("Gas bottle will not burn tonight.")).toBeVisible();
  });

  it("draws each night with its cold and its burn, and says the same in words", async () => {
    const { container } = await opened();
    const nights = container.querySelectorAll("[data-part=night]");
    expect(nights).toHaveLength(3);
    expect(screen.getByRole("img", { name: /Night 2: low −10 °C; heating burns 5 L/ })).toBeVisible();
    const heights = [...container.querySelectorAll("[data-part=burn]")].map((bar) =>
      Number(bar.getAttribute("height")),
    );
    expect(heights[1]).toBeGreaterThan(heights[0] ?? 0);
    const lows = [...container.querySelectorAll("[data-part=low]")].map((mark) => Number(mark.getAttribute("y")));
    expect(lows[1]).toBeGreaterThan(lows[0] ?? 0);
    // where the heater does not reach, the bar is an edge alone
    expect(container.querySelectorAll("[data-part=burn-short]")).toHaveLength(1);
  });

  it("without a heater says what is missing, and asks how the rig is built", async () => {
    await opened(aFuel({ heat: null, no_heat: "No heater is listed." }));
    expect(screen.getByText("No heater is listed.")).toBeVisible();
    expect(screen.queryByRole("list", { name: "Nights left" })).toBeNull();
    expect(screen.getByRole("button", { name: "How the rig is built and heated" })).toBeVisible();
  });

  it("a reader sees all and changes nothing", async () => {
    await opened(aFuel(), {}, READER);
    for (const name of [/in use now/, /built and heated/, /bottles and cans/, /sit out/, /Quiet hours/, /oil/])
      expect(screen.queryByRole("button", { name })).toBeNull();
    expect(screen.queryByLabelText(/Odometer/)).toBeNull();
  });
});

describe("what is logged by a touch", () => {
  it("brings another bottle into use", async () => {
    const { wire } = await opened();
    press("Blue bottle in use now");
    await waitFor(() =>
      expect(writesOf(wire)[0]).toMatchObject({ add: { event: { type: "swap", store: "gas", source: "blue" } } }),
    );
  });

  it("logs the odometer and the oil, and refuses words in place of a number", async () => {
    const { wire } = await opened();
    type("Odometer, km", "many");
    press("Log it");
    expect(await screen.findAllByRole("status")).not.toHaveLength(0);
    expect(writesOf(wire)).toHaveLength(0);
    type("Odometer, km", "183402");
    press("Log it");
    await waitFor(() => expect(writesOf(wire)).toHaveLength(1));
    press("Changed the oil");
    await waitFor(() => expect(writesOf(wire)).toHaveLength(2));
    expect(writesOf(wire)[0]).toMatchObject({ add: { event: { type: "odometer", distance: 183402 } } });
    expect(writesOf(wire)[1]).toMatchObject({ add: { event: { type: "oil" } } });
  });
});

describe("can I run it, of what burns", () => {
  it("asks a night by its cold, hot water by litres, else minutes as hours", async () => {
    const { wire } = await opened();
    press("Can I run it?");
    await waitFor(() => expect(sent(wire, "/fuel/run")).toEqual([{ appliance: "heater", hours: 9 }]));
    fireEvent.change(screen.getByLabelText("How"), { target: { value: "night" } });
    type("Outside, °C", "−12");
    press("Can I run it?");
    await waitFor(() => expect(sent(wire, "/fuel/run")[1]).toEqual({ appliance: "heater", night: -12 }));
    fireEvent.change(screen.getByLabelText("Appliance"), { target: { value: "hot" } });
    fireEvent.change(screen.getByLabelText("How"), { target: { value: "litres" } });
    press("Can I run it?");
    await waitFor(() => expect(sent(wire, "/fuel/run")[2]).toEqual({ appliance: "hot", litres: 24 }));
    expect(await screen.findByText("No. It takes 2.6 L of Diesel.")).toBeVisible();
  });

  it("what was emptied and is not asked now does not stand in the way", async () => {
    const { wire } = await opened();
    type("Minutes", "");
    fireEvent.change(screen.getByLabelText("How"), { target: { value: "night" } });
    press("Can I run it?");
    await waitFor(() => expect(sent(wire, "/fuel/run")).toEqual([{ appliance: "heater", night: -8 }]));
  });

  it("of what was never read it says what to log first, and offers no button", async () => {
    const first = "Diesel was never read: take one reading of it in the Round, and it can be asked.";
    const fuel = aFuel();
    await opened({ ...fuel, asks: fuel.asks.map((each) => ({ ...each, first })) });
    expect(screen.getByText(first)).toBeVisible();
    expect(screen.queryByRole("button", { name: "Can I run it?" })).toBeNull();
  });

  it("says what is wrong with a number and asks nothing", async () => {
    const { wire } = await opened();
    type("Minutes", "");
    press("Can I run it?");
    expect(await screen.findByText("Write a number here; it was left empty.")).toBeVisible();
    expect(sent(wire, "/fuel/run")).toEqual([]);
  });
});

describe("what is said of the rig", () => {
  it("how it is built and heated, the night off where it is left empty", async () => {
    const { wire } = await opened();
    press("How the rig is built and heated");
    fireEvent.change(await screen.findByLabelText("Keeps its heat"), { target: { value: "good" } });
    type(/^At night/, "");
    type("Length that is heated, m", "4.6");
    fireEvent.click(screen.getByLabelText("heated by mains while plugged in"));
    press("Save how it is heated");
    await waitFor(() => expect(saved(wire)).toHaveLength(1));
    expect(saved(wire)[0]?.heat).toEqual({
      body: "van",
      insulation: "good",
      living_m: 4.6,
      glazing_m2: null,
      double_glazed: false,
      day_c: 19,
      night_c: null,
      night_off: true,
      night_from_h: 22,
      night_until_h: 7,
      plugged: true,
    });
  });

  it("which bottles and cans are carried", async () => {
    const { wire } = await opened();
    press("Change bottles and cans");
    fireEvent.click(await screen.findByRole("button", { name: "Add a bottle or can" }));
    const added = screen.getByRole("group", { name: "Spare 3" });
    fireEvent.change(within(added).getByLabelText("Beside"), { target: { value: "diesel" } });
    press("Save bottles and cans");
    expect(await within(added).findByText("Write a number here; it was left empty.")).toBeVisible();
    fireEvent.change(within(added).getByLabelText("Holds, L"), { target: { value: "20" } });
    press("Save bottles and cans");
    await waitFor(() => expect(saved(wire)).toHaveLength(1));
    expect(saved(wire)[0]?.spares).toEqual([
      { ...BLUE, where: null },
      { id: "spare-3", name: "Spare 3", store: "diesel", holds: 20, where: null },
    ]);
  });

  it("days to sit out, the way as the line, and quiet hours", async () => {
    const { wire } = await opened();
    press("Days to sit out without supply");
    await screen.findByRole("button", { name: "Save what must stay" });
    type("Diesel: days without supply to sit out", "5");
    fireEvent.click(screen.getByLabelText("the way to the next pump is its line"));
    press("Save what must stay");
    await waitFor(() => expect(saved(wire)).toHaveLength(1));
    const buffers = saved(wire)[0]?.stores.map((each) => [each.id, each.buffer_days, each.by_pump]);
    expect(buffers).toEqual([
      ["fresh", null, null],
      ["diesel", 5, true],
      ["gas", 2, null],
    ]);
    fireEvent.click(await screen.findByRole("button", { name: "Quiet hours" }));
    await screen.findByRole("button", { name: "Save the quiet hours" });
    type("Quiet from, hour", "25");
    press("Save the quiet hours");
    expect(await screen.findByText("Write a number of at most 24.")).toBeVisible();
    type("Quiet from, hour", "21.5");
    press("Save the quiet hours");
    await waitFor(() => expect(saved(wire)[1]?.quiet).toEqual({ from_h: 21.5, until_h: 8 }));
  });

  const begun = async (answers: Record<string, unknown>) => {
    const { wire } = await opened(aFuel(), answers);
    press("Quiet hours");
    press("Days to sit out without supply");
    await screen.findByRole("button", { name: "Save the quiet hours" });
    await screen.findByRole("button", { name: "Save what must stay" });
    type("Quiet from, hour", "21.5");
    type("Diesel: days without supply to sit out", "5");
    return wire;
  };
  const quiet = { from_h: 23, until_h: 7 };
  const elsewhere = (doc: object) => ({
    "PUT /rigs/7?saw=12": {
      status: 409,
      place: "",
      problem: "changed",
      stands: aRig({ ...RIG.doc, ...doc }, { revision: 15 }),
    },
    "PUT /rigs/7?saw=15": { ...RIG, revision: 16 },
  });

  it("two parts begun beside each other are both kept, the later over the earlier", async () => {
    const after = { ...RIG, doc: { ...RIG.doc, quiet }, revision: 13 };
    let stands = RIG;
    const wire = await begun({ "PUT /rigs/7?saw=12": () => (stands = after), "GET /rigs/7": () => stands });
    press("Save the quiet hours");
    press("Save what must stay");
    await waitFor(() => expect(saved(wire)).toHaveLength(2));
    expect(wire.filter((each) => each.method === "PUT").map((each) => each.path.split("saw=")[1])).toEqual([
      "12",
      "13",
    ]);
    expect(saved(wire)[1]).toMatchObject({ quiet });
    expect(saved(wire)[1]?.stores[1]).toMatchObject({ buffer_days: 5 });
  });

  it("what somebody else changed in another part stands beside what is saved here", async () => {
    const wire = await begun(elsewhere({ name: "Grebe" }));
    press("Save what must stay");
    await waitFor(() => expect(saved(wire)).toHaveLength(2));
    expect(saved(wire)[1]).toMatchObject({ name: "Grebe" });
  });

  it("what somebody else changed in the same part is not replaced without a word", async () => {
    const wire = await begun(elsewhere({ quiet }));
    press("Save the quiet hours");
    expect((await screen.findAllByText(/^changed\.?$/i))[0]).toBeVisible();
    expect(saved(wire)).toHaveLength(1);
    press("Save the quiet hours");
    await waitFor(() => expect(saved(wire)).toHaveLength(2));
  });

  it("the list is made what the log shows", async () => {
    const { wire } = await opened();
    press("Make the list what the log shows");
    await waitFor(() => expect(sent(wire, "/fuel/accept")).toEqual([{ store: "diesel" }]));
  });
});
