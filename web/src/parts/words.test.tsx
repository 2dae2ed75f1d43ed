import { fireEvent, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { Refusal } from "../api/client";
import { show } from "../app/testing";
import { NumberEntry } from "./Entry";
import { Problem, Refused } from "./Notice";
import { Sheet } from "./Sheet";
import { amount, clock, dateWords, whenWords } from "./words";

describe("times and amounts", () => {
  it("are read by the rig's own clock, wherever this device is", () => {
    expect(clock("2026-11-25T23:40:00-07:00")).toBe("23:40");
    expect(whenWords("2026-11-25T23:40:00-07:00")).toBe("Wed 25 Nov, 23:40");
    expect(dateWords("2026-01-01", true)).toBe("Thursday 1 January");
  });

  it("have a decimal only where it says something", () => {
    expect(amount(4.26, "L")).toBe("4.3 L");
    expect(amount(42.6, "L")).toBe("43 L");
    expect(amount(1234, "Wh")).toBe("1,234 Wh");
  });
});

describe("a number that is typed", () => {
  const draw = (value: number | null) => {
    const kept = vi.fn();
    show(<NumberEntry label="Holds" unit="L" value={value} onValue={kept} />);
    return { kept, field: screen.getByLabelText("Holds, L") };
  };

  it("is kept when the field is left, with comma or point", () => {
    const { kept, field } = draw(100);
    fireEvent.change(field, { target: { value: "99,5" } });
    expect(kept).not.toHaveBeenCalled();
    fireEvent.blur(field);
    expect(kept).toHaveBeenCalledWith(99.5);
  });

  it("is nothing when the field is emptied, and is not sent when it did not change", () => {
    const { kept, field } = draw(100);
    fireEvent.blur(field);
    expect(kept).not.toHaveBeenCalled();
    fireEvent.change(field, { target: { value: " " } });
    fireEvent.blur(field);
    expect(kept).toHaveBeenCalledWith(null);
  });
});

describe("what was refused", () => {
  it("names the place where there is one", () => {
    show(<Problem error={new Refusal(422, "rig.stores[0].capacity", "must be over 0")} />);
    expect(screen.getByRole("alert")).toHaveTextContent("rig.stores[0].capacity: must be over 0");
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
