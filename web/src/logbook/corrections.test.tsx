import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../app/testing";
import { EntryEditor } from "./EntryEditor";
import { ImportPanel } from "./ImportPanel";

const reading: Schemas["Entry"] = {
  id: 31,
  at: "2026-11-24T20:06:00+01:00",
  kind: "reading",
  store: "fresh",
  words: "Fresh water: mark 2/3",
  event: null,
};

const fill: Schemas["Entry"] = {
  id: 9,
  at: "2026-11-24T10:30:00+01:00",
  kind: "event",
  store: "fresh",
  words: "Fresh water filled to the brim",
  event: { type: "fill", store: "fresh", full: true },
};

describe("a line of the logbook", () => {
  it("is corrected with its own offset when only the time was wrong", async () => {
    const asked = answering({ "PUT /readings/31": {} });
    show(<EntryEditor rig={7} entry={reading} />);
    fireEvent.click(screen.getByRole("button", { name: /^Correct:/ }));
    expect(screen.getByRole("button", { name: "Correct" })).toBeDisabled();
    fireEvent.change(screen.getByLabelText("Right value"), { target: { value: "1/3" } });
    fireEvent.change(screen.getByLabelText("Time"), { target: { value: "21:15" } });
    fireEvent.click(screen.getByRole("button", { name: "Correct" }));
    await waitFor(() =>
      expect(asked[0]?.body).toEqual({ store: "fresh", text: "1/3", at: "2026-11-24T21:15:00+01:00" }),
    );
    await waitFor(() => expect(screen.queryByLabelText("Right value")).toBeNull());
  });

  it("turns a fill to the brim into a measured one, and back", async () => {
    const asked = answering({ "PUT /events/9": {} });
    show(<EntryEditor rig={7} entry={fill} />);
    fireEvent.click(screen.getByRole("button", { name: /^Correct:/ }));
    fireEvent.change(screen.getByLabelText("Right amount"), { target: { value: "40,5" } });
    fireEvent.click(screen.getByRole("button", { name: "Correct" }));
    await waitFor(() => expect(asked[0]?.body).toMatchObject({ type: "fill", amount: 40.5, full: false }));
    fireEvent.click(await screen.findByRole("button", { name: /^Correct:/ }));
    fireEvent.click(screen.getByRole("button", { name: "Correct" }));
    await waitFor(() => expect(asked[1]?.body).toMatchObject({ amount: null, full: true }));
  });

  it("never takes a slip of the keys for a fill to the brim", () => {
    const asked = answering({ "PUT /events/9": {} });
    show(<EntryEditor rig={7} entry={fill} />);
    fireEvent.click(screen.getByRole("button", { name: /^Correct:/ }));
    fireEvent.change(screen.getByLabelText("Right amount"), { target: { value: "4o" } });
    expect(screen.getByRole("alert")).toHaveTextContent('"4o" is not a number; write one such as 12.5.');
    fireEvent.keyDown(screen.getByLabelText("Right amount"), { key: "Enter" });
    expect(asked).toHaveLength(0);
  });

  it("stays open with what was refused", async () => {
    answering({ "PUT /readings/31": { status: 422, place: "text", problem: "130 L is more than it holds" } });
    show(<EntryEditor rig={7} entry={reading} />);
    fireEvent.click(screen.getByRole("button", { name: /^Correct:/ }));
    const field = screen.getByLabelText("Right value");
    fireEvent.change(field, { target: { value: "130 L" } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(await screen.findByRole("alert")).toHaveTextContent("130 L is more than it holds");
    expect(field).toHaveValue("130 L");
  });

  it("is taken out by its own number", async () => {
    const asked = answering({ "DELETE /events/9": {} });
    show(<EntryEditor rig={7} entry={fill} />);
    fireEvent.click(screen.getByRole("button", { name: /^Remove:/ }));
    await waitFor(() => expect(asked[0]).toMatchObject({ method: "DELETE", path: "/api/rigs/7/events/9" }));
  });
});

describe("bringing a file", () => {
  const sums = { name: "Heron", stores: ["Fresh water"], days: 3, readings: 9, events: 4, first: null, last: null };
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
    expect(asked.map((each) => each.path)).toEqual(["/api/rigs/7/import/preview"]);
  });

  it("says where the way back lies once it is done", async () => {
    answering({
      "POST /import/preview": { brings: sums, replaces: sums },
      "POST /import": { rig: 7, kept: "heron-before.json" },
    });
    const done = vi.fn();
    show(<ImportPanel rig={7} done={done} />);
    choose("{}");
    fireEvent.click(await screen.findByRole("button", { name: "Replace this rig by it" }));
    const link = await screen.findByRole("link", { name: "heron-before.json" });
    expect(link).toHaveAttribute("href", "/api/rigs/7/kept/heron-before.json");
    expect(done).toHaveBeenCalledWith(7);
  });

  it("offers nothing of a file that is refused, and names the place", async () => {
    answering({ "POST /imports/preview": { status: 422, place: "rig.units", problem: "must be metric, us or uk" } });
    show(<ImportPanel rig={null} done={vi.fn()} />);
    choose("{}");
    expect(await screen.findByRole("alert")).toHaveTextContent("rig.units: must be metric, us or uk");
    expect(screen.queryByRole("button")).toBeNull();
  });
});
