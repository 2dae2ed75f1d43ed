import { useRef, useState } from "react";

import { onKeys } from "./keys";

/**
 * Many buttons in a row as one stop of the Tab key: the arrow keys go from one to the next, Home and End to the ends.
 * What is gone through carries ``rove(n)``.
 */
export const useRove = (before: "ArrowLeft" | "ArrowUp", after: "ArrowRight" | "ArrowDown") => {
  const [at, setAt] = useState(0);
  const box = useRef<HTMLDivElement>(null);
  const go = (to: (here: number, last: number) => number) => {
    const items = [...(box.current?.querySelectorAll<HTMLElement>("[data-rove]") ?? [])];
    const here = items.findIndex((item) => item === document.activeElement);
    if (here < 0) return false;
    items[Math.min(items.length - 1, Math.max(0, to(here, items.length - 1)))]?.focus();
    return true;
  };
  const keys = onKeys({
    [before]: () => go((here) => here - 1),
    [after]: () => go((here) => here + 1),
    Home: () => go(() => 0),
    End: () => go((_, last) => last),
  });
  const rove = (n: number) => ({ "data-rove": n, tabIndex: n === at ? 0 : -1, onFocus: () => setAt(n) });
  return { box: { ref: box, onKeyDown: keys }, rove, at };
};
