import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { aCase } from "../testing/review";
import { answering, show } from "../testing/testing";
import { ReviewView } from "./ReviewView";

const aReview = (part: Partial<Schemas["ReviewOut"]> = {}): Schemas["ReviewOut"] => ({
  rig: "Test rig",
  headline: "Of 12 ranges whose end is known, 10 held.",
  detail: "8 in 10 should.",
  horizon_days: 14,
  stores: [
    { store: "fresh", name: "Fresh water", shown: 41, decided: 12, held: "10 of 12", spread: "as it is" },
    { store: "gas", name: "Gas", shown: 60, decided: 0, held: "–", spread: "10 % narrower" },
  ],
  notices: [{ notice: "about 1 day", n: 5, off: "0.4 days", baseline_off: "0.9 days" }],
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
    await opened(aReview());
    expect(screen.getByRole("heading", { level: 1 })).toHaveTextContent("10 held.");
  });

  it("counts by store, and says what the record does to the spread", async () => {
    await opened(aReview());
    const [table] = screen.getAllByRole("table");
    const rows = within(table as HTMLElement).getAllByRole("row");
    expect(rows[1]).toHaveTextContent("Fresh water411210 of 12as it is");
    expect(rows[2]).toHaveTextContent("Gas600–10 % narrower");
  });

  it("sets its days beside those of the last reading alone, at each notice", async () => {
    await opened(aReview());
    const table = screen.getAllByRole("table")[1] as HTMLElement;
    expect(within(table).getAllByRole("row")[1]).toHaveTextContent("about 1 day50.4 days0.9 days");
  });

  it("says when a forecast is decided while there are none", async () => {
    await opened(aReview());
    expect(screen.getByRole("region", { name: "Latest forecasts that came true" })).toHaveTextContent(
      "None yet. A forecast is decided when its line is reached",
    );
  });

  it("draws each of the latest with its store and day", async () => {
    await opened(aReview({ recent: [aCase()] }));
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
