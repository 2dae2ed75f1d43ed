import { useQueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";

import { behindOf } from "../api/client";
import { useSettled } from "../parts/settled";

/** What is there again in a moment need not be spoken of. */
export const SOON_MS = 1500;

/** A plan that stands until there is a new one says so itself. */
const stands = (data: unknown): boolean => (data as { stands?: boolean } | undefined)?.stands === true;

/** Whether what is shown is of a moment ago, and stays so for a while: as of when, and the share that is done. */
export const useBehind = (): string => {
  const cache = useQueryClient().getQueryCache();
  const shown = useSyncExternalStore(
    (notify) => cache.subscribe(notify),
    () => {
      for (const query of cache.getAll()) {
        const behind = query.isActive() && !stands(query.state.data) ? behindOf(query.state.data) : null;
        if (behind) return `${behind.at} ${behind.progress}`;
      }
      return "";
    },
  );
  const lasts = useSettled(shown !== "", SOON_MS);
  return lasts ? shown : "";
};
