import { useCallback, useRef } from "react";

/** Two touches of one thing within this are one. */
const ONE_TOUCH_MS = 700;

/** Runs what a touch asks for once: not while it is under way, and not for the second half of a double touch. */
export const useOnce = () => {
  const running = useRef(new Map<string, number>());
  return useCallback(async (key: string, run: () => Promise<void>): Promise<void> => {
    const began = running.current.get(key);
    if (began !== undefined && (began < 0 || performance.now() - began < ONE_TOUCH_MS)) return;
    const at = performance.now();
    running.current.set(key, -1);
    try {
      await run();
    } finally {
      running.current.set(key, at);
    }
  }, []);
};
