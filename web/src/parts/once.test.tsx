import { act, fireEvent, render, screen } from "@testing-library/react";
import { expect, it, vi } from "vitest";

import { useOnce } from "./once";

it("a double touch is one, also where its second half is heard late; a touch of its own is another", async () => {
  const run = vi.fn(() => Promise.resolve());
  const Button = () => {
    const once = useOnce();
    return <button onClick={() => void once("shower", run)}>Shower</button>;
  };
  render(<Button />);
  const clock = vi.spyOn(performance, "now");
  const touch = async (at: number, detail: number) => {
    clock.mockReturnValue(at);
    const click = new MouseEvent("click", { bubbles: true, detail });
    vi.stubGlobal("event", click); // as browsers have it while an event is heard
    await act(async () => fireEvent(screen.getByRole("button"), click));
  };
  await touch(1_000, 1);
  await touch(1_200, 1);
  await touch(2_500, 2);
  expect(run).toHaveBeenCalledTimes(1);
  await touch(9_000, 1);
  expect(run).toHaveBeenCalledTimes(2);
  vi.unstubAllGlobals();
  clock.mockRestore();
});
