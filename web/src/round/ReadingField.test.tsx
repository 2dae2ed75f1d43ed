import { act, createEvent, fireEvent, screen, waitFor } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { Refusal } from "../api/client";
import { outbox } from "../outbox/outbox";
import { aStore } from "../testing/round";
import { answering, held, show } from "../testing/testing";
import { ReadingField } from "./ReadingField";

const draw = (log = vi.fn().mockResolvedValue({ id: "sent", waits: false, entry: null }), change = {}) => {
  const next = vi.fn();
  show(
    <ReadingField
      rig={7}
      store={aStore(change)}
      units="metric"
      expected={{ expected: "60 to 80 L", usual: "70 L" }}
      waiting={null}
      locked={false}
      log={log}
      next={next}
    />,
  );
  return { log, next, field: screen.getByLabelText("Fresh water") };
};
const sent = (log: ReturnType<typeof vi.fn>, at = 0) =>
  (log.mock.calls[at]?.[0] as { what: { add: { reading: { text: string } } } }).what.add.reading.text;
const enter = (field: HTMLElement) => fireEvent.keyDown(field, { key: "Enter" });
const type = (field: HTMLElement, value: string) => fireEvent.change(field, { target: { value } });
const SENSOR = { reads: { ...aStore({}).reads, gauge: "sensor", marks: [], mark_words: [] }, marks: [] };

describe("a field of the round", () => {
  it("says last and expected beside it, and what may be typed", () => {
    draw();
    expect(screen.getByText(/Last mark 2\/3/)).toHaveTextContent("Tue 24 Nov, 20:06");
    expect(screen.getByText("Expected now: 60 to 80 L")).toBeVisible();
    expect(screen.getByRole("status")).toHaveTextContent("a mark (0, 1/3, 2/3, 1)");
  });

  it("logs what is expected by one touch, as if it had been typed", async () => {
    const { log } = draw();
    fireEvent.click(screen.getByRole("button", { name: "70 L as expected" }));
    await waitFor(() => expect(log).toHaveBeenCalledOnce());
    expect(sent(log)).toBe("70 L");
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

  it("takes a number alone as last time, says so, and offers the other meaning", async () => {
    answering({ "POST /understand": { words: "105 L, 81 %", fits: true, fit_words: "Fits." } });
    const { log, field } = draw(undefined, { ...SENSOR, last_in: "%" });
    type(field, "81");
    expect(screen.getByRole("status")).toHaveTextContent("as last time");
    expect(screen.getByRole("button", { name: "81 L" })).toBeVisible();
    fireEvent.blur(field);
    expect(log).not.toHaveBeenCalled(); // it may be half typed
    enter(field);
    await waitFor(() => expect(log).toHaveBeenCalledOnce());
    expect(sent(log)).toBe("81%");
    type(field, "81");
    fireEvent.click(screen.getByRole("button", { name: "81 L" }));
    await waitFor(() => expect(log).toHaveBeenCalledTimes(2));
    expect(sent(log, 1)).toBe("81 L");
  });

  it("brings up the number keyboard, with the letters one tap away and what is typed kept", () => {
    const { log, field } = draw();
    expect(field).toHaveAttribute("inputmode", "decimal");
    type(field, "45 L");
    fireEvent.click(screen.getByText("abc"));
    expect(field).toHaveAttribute("inputmode", "text");
    expect(field).toHaveFocus();
    expect(field).toHaveValue("45 L");
    expect(log).not.toHaveBeenCalled();
  });

  it("goes on from an empty field on Enter, and nothing else follows from that press", () => {
    const { log, field, next } = draw();
    const pressed = createEvent.keyDown(field, { key: "Enter" });
    fireEvent(field, pressed);
    expect(next).toHaveBeenCalledOnce();
    expect(pressed.defaultPrevented).toBe(true);
    expect(log).not.toHaveBeenCalled();
  });

  it("keeps on Enter and goes on to the next store, and keeps a mark at one touch", async () => {
    answering({ "POST /understand": { words: "", fits: true, fit_words: "" } });
    const { log, field, next } = draw();
    type(field, "45 L");
    enter(field);
    expect(next).toHaveBeenCalledOnce();
    expect(await screen.findByText("Saved: 45 L, 35 %")).toBeVisible();
    expect(field).toHaveValue("");
    fireEvent.click(screen.getByRole("button", { name: "2/3" }));
    await waitFor(() => expect(log).toHaveBeenCalledTimes(2));
    expect([sent(log), sent(log, 1)]).toEqual(["45 L", "67%"]);
  });

  it("keeps once, however often Enter, Tab and the finger come while it is under way", async () => {
    let answer: (value: unknown) => void = () => undefined;
    const { log, field } = draw(vi.fn(() => new Promise((resolve) => (answer = resolve))));
    type(field, "45 L");
    enter(field);
    enter(field);
    fireEvent.blur(field);
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    answer({ waits: false, entry: null });
    await screen.findByText(/^Saved: 45 L/);
    fireEvent.blur(field);
    const mark = screen.getByRole("button", { name: "1/3" });
    fireEvent.click(mark);
    fireEvent.click(mark);
    answer({ waits: false, entry: null });
    await waitFor(() => expect(log).toHaveBeenCalledTimes(2));
    fireEvent.click(mark); // the second half of a double touch
    expect(log).toHaveBeenCalledTimes(2);
  });

  it("keeps on leaving only what was understood whole", async () => {
    answering({ "POST /understand": { words: "", fits: true, fit_words: "" } });
    const { log, field } = draw();
    type(field, "4");
    fireEvent.blur(field);
    expect(await screen.findByText("Not kept yet: press Enter or Save.")).toBeVisible();
    expect(log).not.toHaveBeenCalled();
    type(field, "45 L");
    fireEvent.blur(field);
    await waitFor(() => expect(log).toHaveBeenCalledOnce());
  });

  it("asks which of two a number alone means, and keeps neither by itself", async () => {
    const { log, field } = draw(undefined, SENSOR);
    type(field, "40");
    enter(field);
    fireEvent.blur(field);
    expect(screen.getByText('"40" may mean 40% or 40 L; say which')).toBeVisible();
    expect(log).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole("button", { name: "40 L" }));
    await waitFor(() => expect(sent(log)).toBe("40 L"));
  });

  it("understands and refuses without asking the server", () => {
    vi.spyOn(navigator, "onLine", "get").mockReturnValue(false);
    const asked = answering({});
    const { log, field } = draw();
    type(field, "400 L");
    expect(screen.getByText("400 L is more than the 130 L that Fresh water holds")).toBeVisible();
    enter(field);
    expect(log).not.toHaveBeenCalled();
    type(field, "half a tank");
    expect(screen.getByText("65 L, 50 %")).toBeVisible();
    expect(asked).toEqual([]);
  });

  it("says when it waits for a signal", async () => {
    answering({ "POST /understand": { words: "", fits: true, fit_words: "" } });
    const id = await held();
    const { field } = draw(vi.fn().mockResolvedValue({ waits: true, id }));
    type(field, "45 L");
    enter(field);
    expect(await screen.findByText("Kept on this device, waits for a signal: 45 L, 35 %")).toBeVisible();
    await act(() => outbox.discard(id)); // as when it was sent at last
    expect(screen.getByText("Saved: 45 L, 35 %")).toBeVisible();
  });

  it("leaves what was refused in the field", async () => {
    answering({ "POST /understand": { words: "", fits: true, fit_words: "" } });
    const { field } = draw(vi.fn().mockRejectedValue(new Refusal(422, "text", "the tank is not aboard any more")));
    type(field, "45 L");
    enter(field);
    expect(await screen.findByText("the tank is not aboard any more")).toBeVisible();
    expect(field).toHaveValue("45 L");
  });

  it("keeps nothing when nothing was typed", () => {
    const { log, field } = draw();
    enter(field);
    fireEvent.blur(field);
    expect(screen.getByRole("button", { name: "Save" })).toBeDisabled();
    expect(log).not.toHaveBeenCalled();
  });
});
