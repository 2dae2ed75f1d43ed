import { fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import type { Schemas } from "../api/client";
import { answering, show } from "../testing/testing";
import { ReadingField } from "./ReadingField";

const store: Schemas["RoundStore"] = {
  id: "fresh",
  name: "Fresh water",
  kind: "fresh",
  last: "mark 2/3: 67 to 97 L",
  last_at: { at: "2026-11-24T20:06:00+00:00", date: "2026-11-24", time: "20:06" },
  expected: "60 to 80 L",
  example: "2/3",
  worth: null,
  hint: "a mark (0, 1/3, 2/3, 1), an amount, full or dry",
  marks: [
    { label: "1/3", text: "1/3" },
    { label: "2/3", text: "2/3" },
  ],
};

const draw = (log = vi.fn().mockResolvedValue({ waits: false, entry: null })) => {
  show(<ReadingField rig={7} store={store} log={log} />);
  return { log, field: screen.getByLabelText("Fresh water") };
};

describe("a field of the round", () => {
  it("says last and expected beside it, and what may be typed", () => {
    draw();
    expect(screen.getByText(/Last: mark 2\/3/)).toHaveTextContent("Tue 24 Nov, 20:06");
    expect(screen.getByText("Expected now: 60 to 80 L")).toBeVisible();
    expect(screen.getByRole("status")).toHaveTextContent("a mark (0, 1/3, 2/3, 1)");
  });

  it("says back what was understood before it is kept", async () => {
    const asked = answering({
      "POST /understand": { words: "45 L, 45 %", fits: false, fit_words: "Does not fit: 60 to 80 L expected." },
    });
    const { log, field } = draw();
    fireEvent.change(field, { target: { value: "45 L" } });
    expect(await screen.findByText("45 L, 45 %")).toBeVisible();
    expect(screen.getByText(/Does not fit/)).toBeVisible();
    expect(asked[0]?.body).toEqual({ store: "fresh", text: "45 L" });
    expect(log).not.toHaveBeenCalled();
  });

  it("keeps on Enter, and a mark at one touch", async () => {
    answering({ "POST /understand": { words: "", fits: true, fit_words: "" } });
    const { log, field } = draw();
    fireEvent.change(field, { target: { value: "45 L" } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(await screen.findByText("Saved: 45 L")).toBeVisible();
    expect(field).toHaveValue("");
    fireEvent.click(screen.getByRole("button", { name: "2/3" }));
    await waitFor(() => expect(log).toHaveBeenCalledTimes(2));
    expect(log).toHaveBeenLastCalledWith({ rig: 7, entry: { reading: { store: "fresh", text: "2/3" } } });
  });

  it("says when it waits for a signal", async () => {
    answering({ "POST /understand": { words: "", fits: true, fit_words: "" } });
    const { field } = draw(vi.fn().mockResolvedValue({ waits: true }));
    fireEvent.change(field, { target: { value: "45 L" } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(await screen.findByText("Waits for a signal: 45 L")).toBeVisible();
  });

  it("leaves what was refused in the field", async () => {
    answering({ "POST /understand": { status: 422, place: "text", problem: '"plenty" is not understood' } });
    const { field } = draw(vi.fn().mockRejectedValue(new Error('"plenty" is not understood')));
    fireEvent.change(field, { target: { value: "plenty" } });
    fireEvent.keyDown(field, { key: "Enter" });
    expect(await screen.findByText('"plenty" is not understood')).toBeVisible();
    expect(field).toHaveValue("plenty");
  });

  it("keeps nothing when nothing was typed", () => {
    const { log, field } = draw();
    fireEvent.keyDown(field, { key: "Enter" });
    fireEvent.blur(field);
    expect(screen.getByRole("button", { name: "Save" })).toBeDisabled();
    expect(log).not.toHaveBeenCalled();
  });
});
