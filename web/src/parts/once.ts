import { useCallback, useRef } from "react";

/** Two touches of one thing within this are one. */
const ONE_TOUCH_MS = 700;

/** Whether the browser counts a touch with the one before it: on a busy device the second half is heard late. */
const isSecondHalf = (): boolean => {
  const heard = window.event;
  return heard instanceof UIEvent && heard.detail > 1;
};

/** Runs what a touch asks for once: not while it is under way, and not for the second half of a double touch. */
export const useOnce = () => {
  const running = useRef(new Map<string, number>());
  return useCallback(async (key: string, run: () => Promise<void>): Promise<void> => {
    const began = running.current.get(key);
    if (began !== undefined && (began < 0 || performance.now() - began < ONE_TOUCH_MS || isSecondHalf())) return;
    const at = performance.now();
    running.current.set(key, -1);
    try {
      await run();
    } finally {
      running.current.set(key, at);
    }
  }, []);
};
