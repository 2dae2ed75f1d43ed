import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { noFacts } from "../testing/day";
import { answering, ME, show } from "../testing/testing";
import { LogbookView } from "./LogbookView";

const day = (date: string): Schemas["DayOut"] => ({
  date,
  logged: false,
  line: "not logged; the levels are carried on",
  note: null,
  place: null,
  facts: noFacts(date),
  entries: [],
  earlier: 0,
  sums: [],
  doubts: [],
});

const page = (dates: string[], older: string | null = null) => ({
  rig: "Test rig",
  revision: 3,
  today: "2026-11-25",
  temp_unit: "°C",
  water_unit: "L",
  crew: 2,
  days: dates.map(day),
  older,
});

const me = (role: string) => ({ ...ME, rigs: [{ id: 7, name: "Test rig", role, units: "metric" as const }] });

const opened = (log: object, at = "/log", role = "owner") => {
  const asked = answering({
    "GET /log?before=2026-11-20": page(["2026-11-19"]),
    "GET /log": log,
    "GET /log?before=2026-03-10&days=1&all=true&entries=2000": log,
    "GET /log?before=2026-12-10&days=1&all=true&entries=2000": log,
    "GET /round": { stores: [], acts: [] },
  });
  show(<LogbookView />, at, me(role));
  return asked;
};

describe("the Logbook", () => {
  it("opens at the latest day, or at the one that was asked for", async () => {
    opened(page(["2026-11-25", "2026-11-24"]));
    expect(await screen.findByRole("button", { name: /^Wed 25 Nov/ })).toHaveAttribute("aria-expanded", "true");
    expect(screen.getByRole("button", { name: /^Tue 24 Nov/ })).toHaveAttribute("aria-expanded", "false");
  });

  it("opens any day that was asked for, also one on which nothing was logged", async () => {
    const asked = opened(page(["2026-03-09"]), "/log?day=2026-03-09");
    expect(await screen.findByRole("button", { name: /^Mon 9 Mar/ })).toHaveAttribute("aria-expanded", "true");
    expect(asked.map((each) => each.path)).toContain("/api/rigs/7/log?before=2026-03-10&days=1&all=true&entries=2000");
    expect(screen.getByLabelText("Open a day")).toHaveValue("2026-03-09");
  });

  it("says that a coming day is not in it", async () => {
    opened(page(["2026-11-25"]), "/log?day=2026-12-09");
    expect(await screen.findByText(/Wednesday 9 December is yet to come/)).toBeVisible();
  });

  it("turns to older days until there are none", async () => {
    const asked = opened(page(["2026-11-20"], "2026-11-20"));
    fireEvent.click(await screen.findByRole("button", { name: "Older days" }));
    expect(await screen.findByRole("button", { name: /^Thu 19 Nov/ })).toBeVisible();
    expect(screen.getByRole("button", { name: /^Fri 20 Nov/ })).toBeVisible();
    await waitFor(() => expect(screen.queryByRole("button", { name: "Older days" })).toBeNull());
    expect(asked.map((each) => each.path)).toContain("/api/rigs/7/log?before=2026-11-20");
  });

  it("says where days begin when there are none", async () => {
    opened(page([]));
    expect(await screen.findByText(/The Round is where days begin/)).toBeVisible();
  });

  it("lets everybody take the file out, and only the owner put one in its place", async () => {
    opened(page([]), "/log", "crew");
    expect(await screen.findByRole("link", { name: "Export the logbook file" })).toHaveAttribute(
      "href",
      "/api/rigs/7/export",
    );
    expect(screen.queryByRole("button", { name: "Import a file over this rig" })).toBeNull();
  });

  it("says what was refused in place of an empty book", async () => {
    opened({ status: 404, place: "", problem: "There is no such rig." });
    expect(await screen.findByText("Not here.")).toBeVisible();
    expect(screen.getByRole("alert")).toHaveTextContent("There is no such rig.");
  });
});
