import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";

import { ask, get, post } from "./asked";
import { client, Refusal, type Schemas, take } from "./client";
import { keys } from "./keys";

/** The questions that are more than an address: asked when something is typed, again and again, or page by page. */

const POLL_MS = 5_000;

export const meQuery = queryOptions({
  queryKey: keys.me,
  queryFn: ({ signal }) => take(client.GET("/api/account/me", { signal })),
  staleTime: 60_000,
});

/** Which state of the rig the server has; asked every few seconds while the page is looked at. */
export const revisionQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.apart(rig, "revision"),
    enabled: rig > 0,
    refetchInterval: POLL_MS,
    retry: false,
    queryFn: ({ signal }) => ask(rig, "get", "/revision", {}, { signal }),
  });

/** What a text would mean for a store; nothing is kept. */
export const understandQuery = (rig: number, store: string, text: string) =>
  queryOptions({
    queryKey: keys.apart(rig, "understand", { store, text }),
    enabled: text.trim() !== "",
    retry: false,
    queryFn: ({ signal }) => ask(rig, "post", "/understand", { body: { store, text } }, { signal }),
  });

/** Where a name or a pasted point lies; nothing is asked of what is too short to tell. */
export const placesQuery = (text: string) =>
  queryOptions({
    queryKey: keys.places(text),
    enabled: text.trim().length > 1,
    retry: false,
    queryFn: ({ signal }) => take(client.GET("/api/places/find", { params: { query: { text: text.trim() } }, signal })),
  });

/** What a word finds in the log and the book. */
export const searchQuery = (rig: number, word: string) =>
  queryOptions({
    queryKey: keys.apart(rig, "search", { word }),
    enabled: rig > 0 && word !== "",
    retry: false,
    queryFn: ({ signal }) => ask(rig, "get", "/search", { query: { word } }, { signal }),
  });

/** What a rig would be as it is being changed. */
export const checksQuery = (rig: number, doc: Schemas["RigDoc"] | null) =>
  queryOptions({
    queryKey: keys.apart(rig, "checks", { doc }),
    enabled: doc !== null,
    retry: false,
    queryFn: async ({ signal }) => {
      const { checks, refused } = await ask(rig, "post", "/checks", { body: doc ?? undefined }, { signal });
      if (refused) throw new Refusal(422, refused.place, refused.problem, refused.label);
      return checks;
    },
  });

export const planQuery = (rig: number) => ({ ...get(rig, "/plan"), staleTime: 60_000 });

/** What each lever brings until a day; what was shown stays until the next answer is there. */
export const rigLeversQuery = (rig: number, until: string | null, enabled: boolean) => ({
  ...get(rig, "/levers", { query: until ? { until } : {} }),
  enabled,
  placeholderData: keepPreviousData,
});

export const stayQuery = (rig: number, until: string, sure: number, enabled: boolean) => ({
  ...post(rig, "/stay", { body: { until, sure } }),
  enabled: enabled && until !== "",
});

export const rationQuery = (rig: number, until: string, sure: number, enabled: boolean) => ({
  ...post(rig, "/water/ration", { body: { until, sure } }),
  enabled: enabled && until !== "",
  placeholderData: keepPreviousData,
});

/** The ledger, newest page first. */
export const logQuery = (rig: number) =>
  infiniteQueryOptions({
    queryKey: keys.asked(rig, "log"),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam: before, signal }) =>
      ask(rig, "get", "/log", { query: before ? { before } : {} }, { signal }),
    getNextPageParam: (page) => page.older ?? undefined,
  });

/** As many entries of one day as the server shows. */
export const MOST_ENTRIES = 2000;

/** One day of the ledger, whatever was logged on it. */
export const dayQuery = (rig: number, on: string) =>
  get(rig, "/log", { query: { before: dayAfter(on), days: 1, all: true, entries: MOST_ENTRIES } });

const dayAfter = (on: string): string => {
  const day = new Date(`${on}T12:00:00Z`);
  day.setUTCDate(day.getUTCDate() + 1);
  return day.toISOString().slice(0, 10);
};

export const invitedQuery = (token: string) =>
  queryOptions({
    queryKey: keys.invited(token),
    retry: false,
    queryFn: ({ signal }) => take(client.POST("/api/account/invited", { body: { token }, signal })),
  });
