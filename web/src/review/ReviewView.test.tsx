import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../app/testing";
import { ReviewView } from "./ReviewView";

const store = (part: Partial<Schemas["StoreReview"]>): Schemas["StoreReview"] => ({
  store: "fresh",
  name: "Fresh water",
  kind: "fresh",
  shown: 41,
  still_open: 29,
  decided: 12,
  held: 10,
  widen: 1,
  ...part,
});

const found = (part: Partial<Schemas["ReviewOut"]> = {}): Schemas["ReviewOut"] => ({
  rig: "Test rig",
  headline: "10 of 12 ranges held.",
  detail: "8 in 10 are meant to.",
  stores: [store({})],
  notices: [
    { notice_days: 1, n: 5, off_days: 0.4, pencil_off_days: 0.9 },
    { notice_days: 7, n: 0, off_days: null, pencil_off_days: null },
  ],
  recent: [],
  ...part,
});

const opened = async (review: object) => {
  answering({ "GET /review": review });
  show(<ReviewView />);
  await screen.findAllByRole("heading");
};

describe("looking back", () => {
  it("opens with how many ranges held", async () => {
    await opened(found());
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("10 of 12 ranges held.");
  });

  it("counts by store, and says what the record does to the spread", async () => {
    await opened(
      found({
        stores: [
          store({}),
          store({ store: "grey", name: "Grey tank", widen: 1.25 }),
          store({ store: "gas", name: "Gas", widen: 0.9, decided: 0, held: 0, shown: 60 }),
        ],
      }),
    );
    const [table] = screen.getAllByRole("table");
    const rows = within(table as HTMLElement).getAllByRole("row");
    expect(rows[1]).toHaveTextContent("Fresh water411210 of 12as it is");
    expect(rows[2]).toHaveTextContent("25 % wider");
    expect(rows[3]).toHaveTextContent("Gas600–10 % narrower");
  });

  it("sets its days beside what the pencil would have said, at each notice", async () => {
    await opened(found());
    const table = screen.getAllByRole("table")[1] as HTMLElement;
    const rows = within(table).getAllByRole("row");
    expect(rows[1]).toHaveTextContent("about 1 day50.4 days0.9 days");
    expect(rows[2]).toHaveTextContent("about 7 days0––");
  });

  it("says when a forecast is decided while there are none", async () => {
    await opened(found());
    expect(screen.getByRole("region", { name: "Latest forecasts that came true" })).toHaveTextContent(
      "None yet. A forecast is decided when its line is reached",
    );
  });

  it("draws each of the latest with its store and day", async () => {
    const one = { store: "fresh", name: "Fresh water", kind: "fresh", at: "2026-11-20T20:00:00+01:00" };
    await opened(found({ recent: [{ ...one, p10: 1, p50: 2, p90: 3, outcome: "line", days: 2.4, held: true }] }));
    const item = screen.getByRole("listitem");
    expect(item).toHaveTextContent("Fresh water");
    expect(item).toHaveTextContent("Fri 20 Nov");
    expect(within(item).getByRole("img")).toBeVisible();
  });

  it("says when it cannot be reached", async () => {
    globalThis.fetch = () => Promise.reject(new TypeError("no signal"));
    show(<ReviewView />);
    expect(await screen.findByText("No connection.")).toBeVisible();
    expect(screen.getByRole("alert")).toHaveTextContent("What you logged is kept on this device.");
  });
});
