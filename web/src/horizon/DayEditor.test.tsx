import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { aHorizon } from "../testing/horizon";
import { answering, type Asked, show, writesOf } from "../testing/testing";
import { DayEditor } from "./DayEditor";

const day = () => {
  const one = aHorizon().days[6];
  if (!one) throw new Error("the strip is too short");
  return one;
};
const plans = (asked: Asked[]) => writesOf(asked).map((each) => each.plan?.facts);
const open = (close = () => undefined) =>
  show(<DayEditor day={day()} tempUnit="°C" saw={3} where={aHorizon().where} close={close} />);

describe("the plan for a coming day", () => {
  it("is opened for one day and named by it", async () => {
    open();
    expect(await screen.findByRole("dialog", { name: "Plan for Thursday 26 November" })).toBeVisible();
    expect(screen.getByRole("button", { name: "wet" })).toHaveAttribute("aria-pressed", "true");
    expect(screen.getByRole("button", { name: "clear" })).toHaveAttribute("aria-pressed", "false");
  });

  it("keeps each change at once, and only that", async () => {
    const asked = answering({});
    open();
    fireEvent.click(await screen.findByRole("button", { name: "clear" }));
    await waitFor(() => expect(plans(asked)).toEqual([{ sky: "clear" }]));
    const field = screen.getByLabelText("Drive, h");
    fireEvent.change(field, { target: { value: "1,5" } });
    fireEvent.blur(field);
    await waitFor(() => expect(plans(asked)[1]).toEqual({ hours: { alternator: 1.5 } }));
    expect(writesOf(asked)[0]).toMatchObject({ saw: 3, plan: { on: "2026-11-26" } });
  });

  it("takes a word out when it is touched again", async () => {
    const asked = answering({});
    open();
    fireEvent.click(await screen.findByRole("button", { name: "wet" }));
    await waitFor(() => expect(plans(asked)).toEqual([{ sky: null }]));
  });

  it("says at the field what cannot be, sends nothing of it, and keeps what was typed", async () => {
    const asked = answering({});
    open();
    const field = await screen.findByLabelText("Drive, h");
    fireEvent.change(field, { target: { value: "40" } });
    fireEvent.blur(field);
    expect(await screen.findByRole("alert")).toHaveTextContent("Write a number of at most 24.");
    expect(field).toHaveAccessibleDescription("Write a number of at most 24.");
    expect(field).toHaveValue("40");
    expect(asked).toHaveLength(0);
  });

  it("puts what the server refuses at its field by its label, and stays open", async () => {
    answering({
      "POST /writes": {
        state: "refused",
        place: "temp_min_c",
        label: "Coldest",
        problem: "is above the warmest",
      },
    });
    const close = vi.fn();
    open(close);
    const field = await screen.findByLabelText("Coldest, °C");
    fireEvent.change(field, { target: { value: "12" } });
    fireEvent.blur(field);
    await waitFor(() => expect(field).toHaveAccessibleDescription("is above the warmest"));
    expect(close).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("button", { name: "Done" }));
    expect(close).toHaveBeenCalledOnce();
  });
});
