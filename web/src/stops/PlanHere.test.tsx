import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it } from "vitest";

import { aSpot } from "../testing/stops";
import { answering, show } from "../testing/testing";
import { PlanHere } from "./PlanHere";

describe("a stop planned by hand", () => {
  it("is planned by the date and time aboard", async () => {
    const asked = answering({ "POST /plan/stops/on": null });
    const offers = [{ id: "hookup", words: "hookup", matters: false }];
    show(<PlanHere rig={7} spot={{ ...aSpot(), offers }} today="2026-11-25" />);
    fireEvent.change(screen.getByLabelText("Stop here on"), { target: { value: "2026-12-12" } });
    fireEvent.click(screen.getByRole("button", { name: "A night plugged in" }));
    fireEvent.submit(screen.getByRole("form", { name: "Plan a stop at Quarry tap" }));
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]?.body).toEqual({ place: "quarry-tap", on: "2026-12-12", time: "12:00", plug: true });
    expect(await screen.findByText("It stands in the plan.")).toBeVisible();
  });

  it("asks for no night plugged in where there is no post", () => {
    show(<PlanHere rig={7} spot={aSpot()} today="2026-11-25" />);
    expect(screen.queryByRole("button", { name: "A night plugged in" })).toBeNull();
  });
});
