import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { Refusal } from "../api/client";
import { show } from "../testing/testing";
import { Problem, Refused } from "./Notice";
import { Sheet } from "./Sheet";
import { dateWords, momentWords } from "./words";

it("times are read by the clock aboard, as the server tells them", () => {
  vi.useFakeTimers({ now: new Date("2026-03-05T12:00:00Z"), toFake: ["Date"] });
  const at = { at: "2026-11-25T23:40:00-07:00", date: "2026-11-25", time: "23:40" };
  expect(momentWords(at)).toBe("Wed 25 Nov, 23:40");
  expect(dateWords("2026-01-01", true)).toBe("Thursday 1 January");
  // the same date far from today is another year's
  expect(dateWords("2027-03-05", true)).toContain("2027");
  vi.useRealTimers();
});

describe("what was refused", () => {
  it("names the field by its label where there is one", () => {
    show(<Problem error={new Refusal(422, "rig.stores[0].capacity", "must be greater than 0", "Capacity")} />);
    expect(screen.getByRole("alert")).toHaveTextContent("Capacity: must be greater than 0");
  });

  it("tells a lost connection from a page that is not there, and offers to try again", () => {
    const again = vi.fn();
    const { unmount } = show(<Refused error={new Refusal(0, "", "No way through.")} again={again} />);
    expect(screen.getByText("No connection.")).toBeVisible();
    expect(screen.getByRole("alert")).toHaveTextContent("What you logged is kept on this device.");
    fireEvent.click(screen.getByRole("button", { name: "Try again" }));
    expect(again).toHaveBeenCalledOnce();
    unmount();
    show(<Refused error={new Refusal(404, "", "There is no such rig.")} />);
    expect(screen.getByText("Not here.")).toBeVisible();
    expect(screen.queryByRole("button")).toBeNull();
  });
});

it("a sheet has a row for each and a head for each column", () => {
  show(
    <Sheet
      name="Sun"
      heads={["Day", "Taken"]}
      rows={[
        ["Mon", "1 Wh"],
        ["Tue", "2 Wh"],
      ]}
    />,
  );
  expect(screen.getAllByRole("columnheader").map((head) => head.textContent)).toEqual(["Day", "Taken"]);
  expect(screen.getAllByRole("row")).toHaveLength(3);
});
