import { useQuery } from "@tanstack/react-query";
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { meQuery } from "../api/queries";
import { outbox } from "../outbox/outbox";
import { answering, type Asked, ME, show, writesOf } from "../testing/testing";
import { EntryEditor } from "./EntryEditor";
import { ImportPanel } from "./ImportPanel";

const at = (time: string) => ({ at: `2026-11-24T${time}:31+01:00`, date: "2026-11-24", time });

const reading: Schemas["EntryOut"] = {
  id: "entry-31",
  revision: 2,
  at: at("20:06"),
  kind: "reading",
  store: "fresh",
  words: "Fresh water: mark 2/3",
  event: null,
};

const fill: Schemas["EntryOut"] = {
  id: "entry-9",
  revision: 2,
  at: at("10:30"),
  kind: "event",
  store: "fresh",
  words: "Fresh water filled to the brim",
  event: { type: "fill", store: "fresh", full: true },
};

const move: Schemas["EntryOut"] = {
  ...fill,
  words: "20 L from the reserve to Fresh water",
  event: { type: "move", store: null, full: false, amount: 20, source: "reserve", target: "fresh" },
};

const open = (entry: Schemas["EntryOut"], answers: Record<string, unknown>) => {
  const asked = answering(answers);
  show(<EntryEditor rig={7} entry={entry} saw={3} writes />);
  fireEvent.click(screen.getByRole("button", { name: /^Correct:/ }));
  return asked;
};
const to = (asked: Asked[], at = 0) => writesOf(asked)[at]?.correct?.to;
const correct = () => fireEvent.click(screen.getByRole("button", { name: "Correct" }));

describe("a line of the logbook", () => {
  it("is corrected at another local time of its date", async () => {
    const asked = open(reading, {});
    fireEvent.change(screen.getByLabelText("Right reading"), { target: { value: "1/3" } });
    fireEvent.change(screen.getByLabelText("Time"), { target: { value: "21:15" } });
    correct();
    await waitFor(() =>
      expect(writesOf(asked)).toEqual([
        {
          saw: 3,
          correct: {
            entry: { kind: "reading", id: "entry-31" },
            to: { reading: { store: "fresh", text: "1/3" }, on: "2026-11-24", time: "21:15" },
          },
        },
      ]),
    );
    await waitFor(() => expect(screen.queryByLabelText("Right reading")).toBeNull());
  });

  it("keeps its time to the second where that was not touched", async () => {
    const asked = open(reading, {});
    fireEvent.change(screen.getByLabelText("Right reading"), { target: { value: "1/3" } });
    correct();
    await waitFor(() => expect(to(asked)).toEqual({ reading: { store: "fresh", text: "1/3" } }));
  });

  it("turns a fill to the brim into a measured one, and back", async () => {
    const asked = open(fill, {});
    fireEvent.change(screen.getByLabelText("Amount"), { target: { value: "40,5" } });
    correct();
    await waitFor(() => expect(to(asked)).toMatchObject({ event: { type: "fill", amount: 40.5, full: false } }));
    await waitFor(() => expect(screen.queryByLabelText("Amount")).toBeNull());
    fireEvent.click(screen.getByRole("button", { name: /^Correct:/ }));
    correct();
    await waitFor(() => expect(to(asked, 1)).toMatchObject({ event: { amount: null, full: true } }));
  });

  it("corrects a move with both its ends, and does not take an emptied amount", async () => {
    const asked = open(move, {});
    const amount = screen.getByLabelText("Amount");
    fireEvent.change(amount, { target: { value: "" } });
    correct();
    await waitFor(() => expect(amount).toHaveAccessibleDescription(/it was left empty/));
    expect(asked).toHaveLength(0);
    fireEvent.change(amount, { target: { value: "15" } });
    correct();
    await waitFor(() =>
      expect(to(asked)).toMatchObject({ event: { type: "move", amount: 15, source: "reserve", target: "fresh" } }),
    );
  });

  it("is moved in time alone where nothing is written for its reading", async () => {
    const asked = open(reading, {});
    fireEvent.change(screen.getByLabelText("Time"), { target: { value: "08:10" } });
    correct();
    await waitFor(() => expect(to(asked)).toEqual({ on: "2026-11-24", time: "08:10" }));
  });

  it("says what another hand put there meanwhile", async () => {
    open(reading, { "POST /writes": { state: "stale", stands: "Fresh water: 40 L, 40 %, 20:06" } });
    fireEvent.change(screen.getByLabelText("Right reading"), { target: { value: "1/3" } });
    correct();
    expect(await screen.findByText(/There now: Fresh water: 40 L, 40 %, 20:06/)).toBeVisible();
    expect(outbox.all().map((each) => each.state)).toEqual(["stale"]); // it stands in the tray until one chooses
  });

  it("never takes a slip of the keys for a fill to the brim", async () => {
    const asked = open(fill, {});
    const amount = screen.getByLabelText("Amount");
    fireEvent.change(amount, { target: { value: "4o" } });
    correct();
    await waitFor(() => expect(amount).toHaveAccessibleDescription('"4o" is not a number; write one such as 12.5.'));
    expect(asked).toHaveLength(0);
  });

  it("stays open with what was refused", async () => {
    open(reading, {
      "POST /writes": { state: "refused", place: "text", label: "Reading", problem: "130 L is more than it holds" },
    });
    const field = screen.getByLabelText("Right reading");
    fireEvent.change(field, { target: { value: "130 L" } });
    correct();
    await waitFor(() => expect(field).toHaveAccessibleDescription("130 L is more than it holds"));
    expect(field).toHaveValue("130 L");
  });

  it("is taken out by its own number", async () => {
    const asked = answering({});
    show(<EntryEditor rig={7} entry={fill} saw={3} writes />);
    fireEvent.click(screen.getByRole("button", { name: /^Remove:/ }));
    await waitFor(() => expect(writesOf(asked)).toEqual([{ saw: 3, remove: { kind: "event", id: "entry-9" } }]));
  });
});

describe("importing a file", () => {
  const sums = {
    name: "Heron",
    stores: ["Fresh water"],
    days: 3,
    readings: 9,
    events: 1,
    first: null,
    last: null,
    words: "3 days, 9 readings, 1 event",
  };
  const choose = (text: string) => {
    const file = new File([text], "heron.json", { type: "application/json" });
    fireEvent.change(screen.getByLabelText("Logbook file (JSON)"), { target: { files: [file] } });
  };

  it("shows what it would bring and replace before anything is kept", async () => {
    const asked = answering({ "POST /import/preview": { brings: sums, replaces: { ...sums, name: "Old" } } });
    show(<ImportPanel rig={7} done={vi.fn()} />);
    choose('{"format": "lodeline-logbook"}');
    expect(await screen.findByText("Brings: Heron")).toBeVisible();
    expect(screen.getByText("Replaces: Old")).toBeVisible();
    expect(screen.getAllByText("3 days, 9 readings, 1 event")).toHaveLength(2);
    expect(asked.filter((each) => each.method !== "GET").map((each) => each.path)).toEqual([
      "/api/rigs/7/import/preview",
    ]);
  });

  it("says where the way back lies once it is done", async () => {
    answering({
      "POST /import/preview": { brings: sums, replaces: sums, revision: 12 },
      "POST /import?saw=12": { rig: 7, kept: "heron-before.json" },
    });
    const done = vi.fn();
    show(<ImportPanel rig={7} done={done} />);
    choose("{}");
    fireEvent.click(await screen.findByRole("button", { name: "Replace this rig with it" }));
    const link = await screen.findByRole("link", { name: "heron-before.json" });
    expect(link).toHaveAttribute("href", "/api/rigs/7/kept/heron-before.json");
    expect(done).toHaveBeenCalledWith(7);
  });

  it("lists what stood before each import, and puts the last back from the screen's revision", async () => {
    const at = { at: "2026-11-20T20:05:00+00:00", date: "2026-11-20", time: "20:05" };
    const asked = answering({
      "GET /kept": { exports: [{ name: "rig-7-a.json", at, size: "85 kB" }], can_undo: true, revision: 31 },
      "POST /import/undo?saw=31": { rig: 7, brought: sums, kept: "rig-7-b.json" },
      "GET /me": { ...ME, rigs: [{ ...ME.rigs[0], name: "As it was" }] },
    });
    const Header = () => <header>{useQuery({ ...meQuery, staleTime: Infinity }).data?.rigs[0]?.name}</header>;
    show(
      <>
        <Header />
        <ImportPanel rig={7} done={vi.fn()} />
      </>,
    );
    const list = await screen.findByRole("list", { name: "Exports made before imports" });
    expect(list).toHaveTextContent("20 Nov");
    expect(list).toHaveTextContent("85 kB");
    expect(screen.getByRole("link", { name: /Download/ })).toHaveAttribute("href", "/api/rigs/7/kept/rig-7-a.json");
    fireEvent.click(screen.getByRole("button", { name: "Undo the last import" }));
    await waitFor(() => expect(asked.some((each) => each.path.includes("/import/undo"))).toBe(true));
    // the rig's name comes back with it
    expect(await screen.findByText("As it was")).toBeVisible();
  });

  it("offers nothing of a file that is refused, and names the field", async () => {
    const problem = { status: 422, place: "rig.units", label: "Units", problem: "must be 'metric', 'us' or 'uk'" };
    answering({ "POST /imports/preview": problem });
    show(<ImportPanel rig={null} done={vi.fn()} />);
    choose("{}");
    expect(await screen.findByRole("alert")).toHaveTextContent("Units: must be 'metric', 'us' or 'uk'");
    expect(screen.queryByRole("button")).toBeNull();
  });
});
