import { screen, within } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { aCase, aStoreReview } from "../testing/review";
import { answering, show } from "../testing/testing";
import { ReviewView } from "./ReviewView";

const aReview = (part: Partial<Schemas["ReviewOut"]> = {}): Schemas["ReviewOut"] => ({
  rig: "Test rig",
  headline: "Of 12 ranges whose end is known, 10 held.",
  detail: "8 in 10 should.",
  horizon_days: 14,
  stores: [
    aStoreReview({
      shown: 41,
      decided: 12,
      held: "10 of 12",
      dots: [
        { days: 1, place: 0.4, held: true },
        { days: 1, place: 0.97, held: false },
      ],
      words: "Of 2 readings a day ahead, 1 lay in the range; 2 should.",
    }),
    aStoreReview({ store: "gas", name: "Gas", shown: 60, decided: 0, held: "–", spread: "10 % narrower" }),
  ],
  seen: [{ notice: "a day", n: 40, held: 33, should: 32, words: "Of 40 readings a day ahead, 33 lay in the range." }],
  notices: [{ notice: "about 1 day", n: 5, off: "0.4 days", baseline_off: "0.9 days" }],
  agreed: [],
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
    const rows = within(screen.getByRole("group", { name: "By store" })).getAllByRole("row");
    expect(rows[1]).toHaveTextContent("Fresh water1210 of 12as it is");
    expect(rows[2]).toHaveTextContent("Gas0–10 % narrower");
  });

  it("holds readings against what was expected, in figures and as dots in and out of the band", async () => {
    await opened(aReview());
    const part = screen.getByRole("region", { name: "Readings against what was expected" });
    expect(within(part).getAllByRole("row")[1]).toHaveTextContent("a day before403332");
    const drawing = within(part).getByRole("img", { name: /Of 2 readings a day ahead, 1 lay in the range/ });
    expect(drawing.querySelectorAll("[data-part=in]")).toHaveLength(1);
    const band = drawing.querySelector("[data-part=band]");
    const end = Number(band?.getAttribute("x")) + Number(band?.getAttribute("width"));
    expect(Number(drawing.querySelector("[data-part=out]")?.getAttribute("cx"))).toBeGreaterThan(end);
    expect(within(part).getAllByRole("listitem")).toHaveLength(1);
  });

  it("sets its days beside those of the last reading alone, at each notice", async () => {
    await opened(aReview());
    expect(within(screen.getByRole("group", { name: "By notice" })).getAllByRole("row")[1]).toHaveTextContent(
      "about 1 day50.4 days0.9 days",
    );
  });

  it("says when a forecast is decided while there are none", async () => {
    await opened(aReview());
    expect(screen.getByRole("region", { name: "Latest forecasts that came true" })).toHaveTextContent(
      "None yet. A forecast is decided when its line is reached",
    );
  });

  it("draws each of the latest with its store and day", async () => {
    await opened(aReview({ recent: [aCase()] }));
    const item = within(screen.getByRole("region", { name: "Latest forecasts that came true" })).getByRole("listitem");
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
