import { useSyncExternalStore } from "react";

const PHONE = "(max-width: 47.99em)";

const watch = (changed: () => void) => {
  const query = window.matchMedia(PHONE);
  query.addEventListener("change", changed);
  return () => query.removeEventListener("change", changed);
};

/** Whether the page is as narrow as a phone. */
export const useIsPhone = (): boolean => useSyncExternalStore(watch, () => window.matchMedia(PHONE).matches);
