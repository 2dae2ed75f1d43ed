import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { aStay } from "../testing/stops";
import { answering, ME, READER, show } from "../testing/testing";
import { StayUntil } from "./StayUntil";

const asked = (until: string, me = ME, stay = aStay()) => {
  const wire = answering({ "POST /stay": stay, "POST /agreed": null });
  const ask = vi.fn();
  show(<StayUntil rig={7} asked={{ until, sure: 0.9 }} ask={ask} least="2026-11-26" most="2026-12-09" asks />, "/", me);
  return { wire, ask };
};
const agreed = (wire: ReturnType<typeof answering>) =>
  wire.filter((each) => each.path.endsWith("/agreed")).map((each) => each.body);

describe("stay until", () => {
  it("asks nothing while the days are those of an older page", async () => {
    const wire = answering({ "POST /stay": aStay() });
    const props = { rig: 7, asked: { until: "2026-11-20", sure: 0.9 }, ask: vi.fn(), least: "", most: "" };
    show(<StayUntil {...props} asks={false} />);
    await screen.findByText("Looking at what could be changed ...");
    expect(wire).toEqual([]);
  });

  it("answers with the smallest set, in the order in which it helps, and agrees through the day before", async () => {
    const { wire } = asked("2026-11-29");
    expect(await screen.findByText(/^As things are, 3 in 10/)).toBeVisible();
    fireEvent.click(screen.getByRole("button", { name: /Do navy-showers$/ }));
    await waitFor(() => expect(agreed(wire)).toEqual([{ lever: "navy-showers", until: "2026-11-28" }]));
    // the answer that stands is still that of before: it is not agreed on twice
    await waitFor(() => expect(screen.getByRole("button", { name: /Do navy-showers$/ })).toHaveTextContent("Agreed"));
    fireEvent.click(screen.getByRole("button", { name: /Do navy-showers$/ }));
    expect(agreed(wire)).toHaveLength(1);
    fireEvent.click(screen.getByRole("button", { name: "Agree on all" }));
    await waitFor(() => expect(agreed(wire)).toHaveLength(3));
  });

  it("says which stop would where no change does", async () => {
    asked("2026-11-29", ME, { ...aStay(), feasible: false, steps: [], stop: "A stop by Thursday would." });
    expect(await screen.findByText(/A stop by Thursday would/)).toBeVisible();
    expect(screen.queryByRole("button", { name: "Agree on all" })).toBeNull();
  });

  it("asks nothing before a day is chosen, and tells the day that was", () => {
    const { wire, ask } = asked("");
    expect(wire).toHaveLength(0);
    fireEvent.change(screen.getByLabelText("The morning of"), { target: { value: "2026-11-29" } });
    expect(ask).toHaveBeenCalledWith({ until: "2026-11-29", sure: 0.9 });
  });

  it("lets a reader look and not agree", async () => {
    asked("2026-11-29", READER);
    expect(await screen.findByText("Do navy-showers")).toBeVisible();
    expect(screen.queryByRole("button", { name: /^Agree/ })).toBeNull();
  });
});
