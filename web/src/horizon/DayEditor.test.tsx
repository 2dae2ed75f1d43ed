import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { answering, show } from "../app/testing";
import { DayEditor } from "./DayEditor";
import { aHorizon } from "./testing";

const day = () => {
  const found = aHorizon().days[6];
  if (!found) throw new Error("the strip is too short");
  return found;
};

describe("what a coming day brings", () => {
  it("is opened for one day and named by it", async () => {
    show(<DayEditor day={day()} tempUnit="°C" close={() => undefined} />);
    expect(await screen.findByRole("dialog", { name: "Thursday 26 November brings" })).toBeVisible();
    expect(screen.getByRole("button", { name: "wet" })).toHaveAttribute("aria-pressed", "true");
    expect(screen.getByRole("button", { name: "clear" })).toHaveAttribute("aria-pressed", "false");
  });

  it("keeps each change at once, and only that", async () => {
    const asked = answering({ "PUT /outlook/2026-11-26": aHorizon() });
    show(<DayEditor day={day()} tempUnit="°C" close={() => undefined} />);
    fireEvent.click(await screen.findByRole("button", { name: "clear" }));
    await waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]?.body).toEqual({ sky: "clear" });
    const field = screen.getByLabelText("Drive, h");
    fireEvent.change(field, { target: { value: "1,5" } });
    fireEvent.blur(field);
    await waitFor(() => expect(asked).toHaveLength(2));
    expect(asked[1]?.body).toEqual({ drive_hours: 1.5 });
  });

  it("takes a word back when it is touched again", async () => {
    const asked = answering({ "PUT /outlook/2026-11-26": aHorizon() });
    show(<DayEditor day={day()} tempUnit="°C" close={() => undefined} />);
    fireEvent.click(await screen.findByRole("button", { name: "wet" }));
    await waitFor(() => expect(asked[0]?.body).toEqual({ sky: null }));
  });

  it("sends one change after the other, so that the last answer is that of the last change", async () => {
    const answers: (() => void)[] = [];
    const sent: string[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      sent.push(await request.text());
      await new Promise<void>((resolve) => answers.push(resolve));
      return new Response(JSON.stringify(aHorizon()), { headers: { "Content-Type": "application/json" } });
    });
    show(<DayEditor day={day()} tempUnit="°C" close={() => undefined} />);
    fireEvent.click(await screen.findByRole("button", { name: "clear" }));
    fireEvent.click(screen.getByRole("button", { name: "moving" }));
    await waitFor(() => expect(answers).toHaveLength(1));
    expect(sent).toEqual(['{"sky":"clear"}']);
    answers[0]?.();
    await waitFor(() => expect(sent).toEqual(['{"sky":"clear"}', '{"status":"moving"}']));
    answers[1]?.();
  });

  it("says what was refused and stays open", async () => {
    answering({
      "PUT /outlook/2026-11-26": { status: 422, place: "drive_hours", problem: "must be at most 24" },
    });
    const close = vi.fn();
    show(<DayEditor day={day()} tempUnit="°C" close={close} />);
    const field = await screen.findByLabelText("Drive, h");
    fireEvent.change(field, { target: { value: "40" } });
    fireEvent.blur(field);
    expect(await screen.findByRole("alert")).toHaveTextContent("drive_hours: must be at most 24");
    expect(close).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("button", { name: "Done" }));
    expect(close).toHaveBeenCalledOnce();
  });
});
