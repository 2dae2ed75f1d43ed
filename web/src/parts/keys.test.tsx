import { createEvent, fireEvent, render, screen } from "@testing-library/react";
import { describe, expect, it, vi } from "vitest";

import { asButton, type KeyActs, onKeys } from "./keys";

const pressed = (acts: KeyActs, key: string, more: object = {}) => {
  const drawn = render(<input aria-label="field" onKeyDown={onKeys(acts)} />);
  const event = createEvent.keyDown(screen.getByLabelText("field"), { key, ...more });
  fireEvent(screen.getByLabelText("field"), event);
  drawn.unmount();
  return event.defaultPrevented;
};

describe("keys", () => {
  it("do what they are for alone: the browser's own act of the press does not follow", () => {
    const enter = vi.fn();
    expect(pressed({ Enter: enter }, "Enter")).toBe(true);
    expect(enter).toHaveBeenCalledOnce();
  });

  it("are left to the browser where they are for nothing, and where an act says so", () => {
    expect(pressed({ Enter: vi.fn() }, "a")).toBe(false);
    expect(pressed({ a: () => false }, "a")).toBe(false);
  });

  it("act once when held down, but for arrows; and not within a word that is composed", () => {
    const [enter, right] = [vi.fn(), vi.fn()];
    expect(pressed({ Enter: enter }, "Enter", { repeat: true })).toBe(true);
    pressed({ Enter: enter }, "Enter", { isComposing: true });
    pressed({ ArrowRight: right }, "ArrowRight", { repeat: true });
    expect(enter).not.toHaveBeenCalled();
    expect(right).toHaveBeenCalledOnce();
  });

  it("press what is drawn like a button", () => {
    const press = vi.fn();
    render(<i role="button" aria-label="drawn" onKeyDown={asButton(press)} />);
    for (const key of ["Enter", " ", "x"]) fireEvent.keyDown(screen.getByRole("button"), { key });
    expect(press).toHaveBeenCalledTimes(2);
  });
});

const SOURCES = import.meta.glob<string>(["../**/*.{ts,tsx}", "!../**/*.test.*", "!./keys.ts"], {
  query: "?raw",
  import: "default",
  eager: true,
});

describe("every key handler of the application", () => {
  const heard = Object.entries(SOURCES).flatMap(([path, text]) =>
    text
      .split("\n")
      .flatMap((line, at) => (/onKey(Down|Up|Press)\s*=/.test(line) ? [[path, at + 1, line.trim()]] : [])),
  );

  it("is found", () => expect(heard.length).toBeGreaterThan(6));

  it.each(heard)("%s:%d goes through the one helper", (_path, _at, line) => {
    expect(line).toMatch(/onKeyDown=\{(onKeys|asButton|keptOn)\(/);
  });

  it.each(Object.entries(SOURCES).filter(([, text]) => /addEventListener\(\s*"key/.test(text)))(
    "%s listens to the window through it too",
    (_path, text) => expect(text).toMatch(/= onKeys\(/),
  );
});
