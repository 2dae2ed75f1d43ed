import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { answering, show } from "../app/testing";
import { Audit } from "./Audit";
import { CanIRun } from "./CanIRun";
import { DaysDrawing } from "./DaysDrawing";
import { EnergyView } from "./EnergyView";
import { HowLong } from "./HowLong";
import { Levers } from "./Levers";
import { aDay, anEnergy } from "./testing";

const verdict = {
  answer: "tight",
  current_a: 130.4,
  ah: 12.34,
  share: 0.0617,
  low_without: { p10: 0.4, p50: 0.45, p90: 0.5 },
  low_with: { p10: 0.33, p50: 0.38, p90: 0.43 },
  low_at: "2026-11-26T07:00:00+00:00",
  latest_start: "2026-11-26T13:00:00+00:00",
  why: ["The inverter carries it: 1,500 of 2,000 W."],
  ways: ["Run it for 3 minutes at most."],
  cautions: ["Mains can kill."],
};

describe("can I run it", () => {
  it("asks with what the chosen appliance usually draws", async () => {
    const asked = answering({ "POST /energy/run": verdict });
    show(<CanIRun energy={anEnergy()} bank={null} />);
    fireEvent.change(screen.getByLabelText("Appliance"), { target: { value: "fan" } });
    fireEvent.click(screen.getByRole("button", { name: "Can I run it?" }));
    await screen.findByText("It may be tight.");
    expect(asked[0]?.path).toBe("/api/rigs/7/energy/run");
    expect(asked[0]?.body).toMatchObject({ watts: 25, minutes: 480, via: "dc", heats: false });
  });

  it("says the current, the cost, the low with and without, and what would make it possible", async () => {
    answering({ "POST /energy/run": verdict });
    show(<CanIRun energy={anEnergy()} bank={null} />);
    fireEvent.click(screen.getByRole("button", { name: "Can I run it?" }));
    const said = (await screen.findByText("It may be tight.")).closest("[data-part=verdict]") as HTMLElement;
    expect(said).toHaveTextContent("130 A from the bank, 12.3 Ah of it, 6.2 % of capacity");
    expect(said).toHaveTextContent("from 40 to 50 % to 33 to 43 %");
    expect(said).toHaveTextContent("when it starts by Thu 26 Nov, 13:00");
    expect(within(said).getByText("Run it for 3 minutes at most.")).toBeVisible();
    expect(said).toHaveTextContent("Mains can kill.");
  });

  it("names the place of what was refused", async () => {
    answering({ "POST /energy/run": { status: 422, place: "watts", problem: "must be over 0" } });
    show(<CanIRun energy={anEnergy()} bank={null} />);
    fireEvent.click(screen.getByRole("button", { name: "Can I run it?" }));
    expect(await screen.findByRole("alert")).toHaveTextContent("watts: must be over 0");
  });

  it("asks about the bank that is looked at", async () => {
    const asked = answering({ "POST /energy/run?bank=starter": verdict });
    show(<CanIRun energy={anEnergy()} bank="starter" />);
    fireEvent.click(screen.getByRole("button", { name: "Can I run it?" }));
    await screen.findByText("It may be tight.");
    expect(asked[0]?.path).toContain("bank=starter");
  });
});

describe("how long to charge", () => {
  const plan = (words: string) => ({ hours: null, fuel_l: null, words });
  const told = {
    reach: plan("To 90 %: 2 h."),
    bulk: null,
    two: plan("In two runs: 1 h 50 min."),
    hold_once: plan("Once: 3 h."),
    hold_daily: plan("Each day: 20 min."),
    sun_finishes_at: 0.8,
    sun_words: "Stop at 80 %.",
    cautions: [],
  };

  it("asks to a level and to a date, and lists each plan once", async () => {
    const asked = answering({ "POST /energy/charge": told });
    show(<HowLong energy={anEnergy()} bank={null} />);
    fireEvent.change(screen.getByLabelText("Or to hold through"), { target: { value: "2026-11-28" } });
    fireEvent.click(screen.getByRole("button", { name: "How long?" }));
    await screen.findByText("Stop at 80 %.");
    expect(asked[0]?.body).toEqual({ source: "gen", target: 90, until: "2026-11-28" });
    expect(screen.getAllByRole("listitem")).toHaveLength(5);
  });

  it("says where a source comes from when there is none", () => {
    show(<HowLong energy={anEnergy({ sources: [] })} bank={null} />);
    expect(screen.getByText(/Add one on the Rig view/)).toBeVisible();
    expect(screen.queryByRole("button", { name: "How long?" })).toBeNull();
  });
});

describe("the audit", () => {
  it("puts the largest load first and offers the learned figure", async () => {
    const asked = answering({ "POST /energy/accept-loads": anEnergy() });
    show(<Audit energy={anEnergy()} bank={null} />);
    const rows = screen.getAllByRole("row").map((row) => row.textContent);
    expect(rows[1]).toContain("Fridge");
    expect(rows[1]).toContain("440 Wh");
    fireEvent.click(screen.getByRole("button", { name: "Accept 700 Wh a day as the list" }));
    await waitFor(() => expect(asked).toHaveLength(1));
  });

  it("offers nothing where list and log agree", () => {
    const audit = anEnergy().audit;
    show(<Audit energy={anEnergy({ audit: audit && { ...audit, differs: false } })} bank={null} />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("what would help", () => {
  it("shows a figure once where a change does not move it, and says what buys nothing", async () => {
    const lever = {
      low_before: 0.45,
      low_after: 0.45,
      hold_before: 0.5,
      hold_after: 0.5,
      days_before: 8,
      days_after: 8,
    };
    answering({
      "GET /energy/levers": [
        { ...lever, id: "panel", name: "More panel", days_after: null, no_sun_before: 2, no_sun_after: 2, buys: true },
        { ...lever, id: "drive", name: "Drive", no_sun_before: 2, no_sun_after: 2, buys: false },
      ],
    });
    show(<Levers bank={null} />);
    const panel = (await screen.findByText("More panel")).closest("tr");
    expect(panel).toHaveTextContent("8.0 → over 14");
    expect(panel).not.toHaveTextContent("buys nothing");
    const drive = screen.getByText("Drive").closest("tr");
    expect(drive).toHaveTextContent("buys nothing now");
    expect(drive).not.toHaveTextContent("→");
  });
});

describe("in and out by day", () => {
  const day = aDay({ date: "2026-11-24", load_logged: true, full: true });

  it("says as a table that a full day's yield is a lower bound and what found no room", () => {
    show(<DaysDrawing days={[day, { ...day, date: "2026-11-25", full: false, taken: null }]} />);
    fireEvent.click(screen.getByRole("button", { name: "As a table" }));
    const rows = screen.getAllByRole("row");
    expect(rows[1]).toHaveTextContent("at least 900 Wh");
    expect(rows[1]).toHaveTextContent("about 300 Wh");
    expect(rows[2]).toHaveTextContent("not logged");
  });
});

describe("the whole view", () => {
  it("says what to do before a bank was ever read, and asks nothing of it", async () => {
    const asked = answering({ "GET /energy": anEnergy({ known: false, headline: "House bank was never read." }) });
    show(<EnergyView />);
    expect(await screen.findByRole("heading", { level: 1 })).toHaveTextContent("House bank was never read.");
    expect(screen.queryByText("Can I run it?")).toBeNull();
    expect(asked.map((each) => each.path)).toEqual(["/api/rigs/7/energy"]);
  });

  it("shows another bank when it is chosen", async () => {
    const banks = [
      { id: "house", name: "House bank" },
      { id: "starter", name: "Starter" },
    ];
    const asked = answering({
      "GET /energy/levers": [],
      "GET /energy": anEnergy({ banks }),
      "GET /energy?bank=starter": anEnergy({ banks, bank: "starter", headline: "The starter's low." }),
      "GET /energy/levers?bank=starter": [],
    });
    show(<EnergyView />);
    fireEvent.change(await screen.findByLabelText("Bank"), { target: { value: "starter" } });
    expect(await screen.findByText("The starter's low.")).toBeVisible();
    expect(asked.some((each) => each.path.endsWith("/levers?bank=starter"))).toBe(true);
  });
});
