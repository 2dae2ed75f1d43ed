import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { anAudit, anEnergy } from "../testing/energy";
import { answering, show } from "../testing/testing";
import { Audit } from "./Audit";
import { CanIRun } from "./CanIRun";
import { EnergyView } from "./EnergyView";
import { HowLong } from "./HowLong";
import { Levers } from "./Levers";

const verdict = {
  answer: "tight",
  headline: "It may be tight.",
  words: "130 A from the bank, 12.3 Ah of it, 6.2 % of capacity.",
  why: ["The inverter carries it: 1,500 of 2,000 W."],
  ways: ["Run it for 3 minutes at most."],
  cautions: ["Mains can kill."],
};
const ask = () => fireEvent.click(screen.getByRole("button", { name: "Can I run it?" }));

describe("can I run it", () => {
  it("asks with what the chosen appliance usually draws, now or at a local time", async () => {
    const asked = answering({ "POST /energy/run": verdict });
    show(<CanIRun energy={anEnergy()} bank={null} />);
    fireEvent.change(screen.getByLabelText("Appliance"), { target: { value: "fan" } });
    ask();
    await screen.findByText("It may be tight.");
    expect(asked[0]?.path).toBe("/api/rigs/7/energy/run");
    expect(asked[0]?.body).toEqual({ watts: 25, minutes: 480, via: "dc", surge: 1, heats: false });
    fireEvent.change(screen.getByLabelText("Start"), { target: { value: "2026-11-25 21:00" } });
    ask();
    await waitFor(() => expect(asked[1]?.body).toMatchObject({ on: "2026-11-25", time: "21:00" }));
  });

  it("says the answer, its reasons, and what would make it possible; a change takes them away", async () => {
    answering({ "POST /energy/run": verdict });
    show(<CanIRun energy={anEnergy()} bank={null} />);
    ask();
    const answer = (await screen.findByText("It may be tight.")).closest("[data-part=verdict]") as HTMLElement;
    expect(answer).toHaveTextContent("130 A from the bank, 12.3 Ah of it, 6.2 % of capacity");
    expect(within(answer).getByText("Run it for 3 minutes at most.")).toBeVisible();
    expect(answer).toHaveTextContent("Mains can kill.");
    fireEvent.change(screen.getByLabelText("Draws, W"), { target: { value: "900" } });
    await waitFor(() => expect(screen.queryByText("It may be tight.")).toBeNull());
  });

  it("asks nothing of a number that was emptied, and says so at its field", async () => {
    const asked = answering({ "POST /energy/run": verdict });
    show(<CanIRun energy={anEnergy()} bank={null} />);
    const field = screen.getByLabelText("Draws, W");
    fireEvent.change(field, { target: { value: "" } });
    ask();
    await waitFor(() => expect(field).toHaveAccessibleDescription("Write a number here; it was left empty."));
    expect(asked).toHaveLength(0);
  });

  it("stands what was refused at its field", async () => {
    answering({
      "POST /energy/run": { status: 422, place: "watts", label: "Watts", problem: "must be at most 20,000 W" },
    });
    show(<CanIRun energy={anEnergy()} bank={null} />);
    ask();
    await waitFor(() => expect(screen.getByLabelText("Draws, W")).toHaveAccessibleDescription(/at most 20,000 W/));
  });

  it("asks about the bank that is looked at", async () => {
    const asked = answering({ "POST /energy/run?bank=starter": verdict });
    show(<CanIRun energy={anEnergy()} bank="starter" />);
    ask();
    await screen.findByText("It may be tight.");
    expect(asked[0]?.path).toContain("bank=starter");
  });
});

describe("how long to charge", () => {
  it("asks to a level and to a date, and lists each plan once", async () => {
    const asked = answering({
      "POST /energy/charge": { plans: ["To 90 %: 2 h.", "Once: 3 h."], sun: "Stop at 80 %.", cautions: [] },
    });
    show(<HowLong energy={anEnergy()} bank={null} />);
    fireEvent.change(screen.getByLabelText("Or to hold through"), { target: { value: "2026-11-28" } });
    fireEvent.click(screen.getByRole("button", { name: "How long?" }));
    await screen.findByText("Stop at 80 %.");
    expect(asked[0]?.body).toEqual({ source: "gen", target: 90, until: "2026-11-28" });
    expect(screen.getAllByRole("listitem")).toHaveLength(3);
  });

  it("says where a source comes from when there is none", () => {
    show(<HowLong energy={anEnergy({ sources: [] })} bank={null} />);
    expect(screen.getByText(/Add one on the Rig view/)).toBeVisible();
    expect(screen.queryByRole("button", { name: "How long?" })).toBeNull();
  });
});

describe("the audit", () => {
  it("lists the loads in their order and offers the learned figure", async () => {
    const asked = answering({ "POST /energy/accept-loads": anEnergy() });
    show(<Audit audit={anAudit()} bank={null} saw={3} />);
    expect(screen.getAllByRole("row")[1]).toHaveTextContent("Fridge200 Wh240 Wh440 Wh");
    fireEvent.click(screen.getByRole("button", { name: "Accept 700 Wh a day as the list" }));
    await waitFor(() => expect(asked).toHaveLength(1));
  });

  it("offers nothing where list and log agree", () => {
    show(<Audit audit={{ ...anAudit(), accept: null }} bank={null} saw={3} />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});

it("what would help is a table with a row each", async () => {
  const lever = { id: "panel", name: "More panel", cells: ["45 %", "8.0 → over 14", "", "", ""], has_effect: true };
  answering({
    "GET /energy/levers": [
      lever,
      { ...lever, id: "drive", name: "Drive", cells: ["45 %", "8.0", "", "", "no effect now"] },
    ],
  });
  show(<Levers bank={null} />);
  expect((await screen.findByText("More panel")).closest("tr")).toHaveTextContent("8.0 → over 14");
  expect(screen.getByText("Drive").closest("tr")).toHaveTextContent("no effect now");
});

describe("the whole view", () => {
  it("says what to do before a bank was ever read, and asks nothing of it", async () => {
    const asked = answering({ "GET /energy": anEnergy({ known: false, headline: "House bank was never read." }) });
    show(<EnergyView />);
    expect(await screen.findByRole("heading", { level: 1 })).toHaveTextContent("House bank was never read.");
    expect(screen.queryByText("Can I run it?")).toBeNull();
    expect(asked.map((each) => each.path).sort()).toEqual(["/api/rigs/7/energy", "/api/rigs/7/next"]);
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
