import { screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";

import { show } from "../testing/testing";
import { AsOf } from "./AsOf";

const AT = { at: "2026-11-24T20:40:00+00:00", date: "2026-11-24", time: "20:40" };
const draw = (hours: number) => {
  const fetched = Date.now() - hours * 3_600_000;
  return show(<AsOf at={AT} fetched={fetched} forecast />);
};

beforeEach(() => void vi.useFakeTimers({ toFake: ["Date"], now: new Date("2026-11-25T10:40:00Z") }));
afterEach(() => void vi.useRealTimers());

it("says of what time is shown, and by how much the forecast has moved on", () => {
  draw(14);
  expect(screen.getByRole("status")).toHaveTextContent(
    "As of Tue 24 Nov, 20:40; the forecast has moved on by 14 hours.",
  );
});

it("says nothing of what was just fetched, and days where it is long", () => {
  const { unmount } = draw(0.1);
  expect(screen.queryByRole("status")).toBeNull();
  unmount();
  draw(24 * 6);
  expect(screen.getByRole("status")).toHaveTextContent("moved on by 6 days");
});
