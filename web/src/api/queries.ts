import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";

import { client, Refusal, type Schemas, take } from "./client";
import { keys } from "./keys";

export const ofRig = (rig: number) => ({ params: { path: { rig_id: String(rig) } } });

export const ofBank = (rig: number, bank: string | null) => ({
  params: { path: { rig_id: String(rig) }, query: bank ? { bank } : {} },
});

const POLL_MS = 5_000;

export const meQuery = queryOptions({
  queryKey: keys.me,
  queryFn: ({ signal }) => take(client.GET("/api/account/me", { signal })),
  staleTime: 60_000,
});

export const horizonQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.horizon(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/horizon", { ...ofRig(rig), signal })),
  });

export const roundQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.round(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/round", { ...ofRig(rig), signal })),
  });

/** Which state of the rig the server has; asked every few seconds while the page is looked at. */
export const revisionQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.revision(rig),
    enabled: rig > 0,
    refetchInterval: POLL_MS,
    retry: false,
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/revision", { ...ofRig(rig), signal })),
  });

/** What a text would mean for a store; nothing is kept. */
export const understandQuery = (rig: number, store: string, text: string) =>
  queryOptions({
    queryKey: keys.understand(rig, store, text),
    enabled: text.trim() !== "",
    retry: false,
    queryFn: ({ signal }) =>
      take(client.POST("/api/rigs/{rig_id}/understand", { ...ofRig(rig), body: { store, text }, signal })),
  });

export const rigQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.rig(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}", { ...ofRig(rig), signal })),
  });

/** The exports that imports made first, and whether the last import can be undone. */
export const keptQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.kept(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/kept", { ...ofRig(rig), signal })),
  });

/** What a rig would be as it is being changed. */
export const checksQuery = (rig: number, doc: Schemas["RigDoc"] | null) =>
  queryOptions({
    queryKey: keys.checks(rig, doc),
    enabled: doc !== null,
    retry: false,
    queryFn: async ({ signal }) => {
      const body = doc as Schemas["RigDoc"];
      const tried = await take(client.POST("/api/rigs/{rig_id}/checks", { ...ofRig(rig), body, signal }));
      const wrong = tried.refused;
      if (wrong) throw new Refusal(422, wrong.place, wrong.problem, wrong.label);
      return tried.checks;
    },
  });

export const gaugesQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.gauges(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/gauges", { ...ofRig(rig), signal })),
  });

export const crewQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.crew(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/crew", { ...ofRig(rig), signal })),
  });

/** By which somebody may still come aboard; only an owner is told. */
export const invitationsQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.invitations(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/invitations", { ...ofRig(rig), signal })),
  });

export const reviewQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.review(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/review", { ...ofRig(rig), signal })),
  });

export const energyQuery = (rig: number, bank: string | null) =>
  queryOptions({
    queryKey: keys.energy(rig, bank),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/energy", { ...ofBank(rig, bank), signal })),
  });

export const leversQuery = (rig: number, bank: string | null) =>
  queryOptions({
    queryKey: keys.levers(rig, bank),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/energy/levers", { ...ofBank(rig, bank), signal })),
  });

/** The ledger, newest page first. */
export const logQuery = (rig: number) =>
  infiniteQueryOptions({
    queryKey: keys.log(rig),
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam, signal }) =>
      take(
        client.GET("/api/rigs/{rig_id}/log", {
          params: { path: { rig_id: String(rig) }, query: pageParam ? { before: pageParam } : {} },
          signal,
        }),
      ),
    getNextPageParam: (page) => page.older ?? undefined,
  });

/** As many entries of one day as the server shows. */
export const MOST_ENTRIES = 2000;

/** One day of the ledger, whatever was logged on it. */
export const dayQuery = (rig: number, on: string) =>
  queryOptions({
    queryKey: keys.day(rig, on),
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/rigs/{rig_id}/log", {
          params: {
            path: { rig_id: String(rig) },
            query: { before: dayAfter(on), days: 1, all: true, entries: MOST_ENTRIES },
          },
          signal,
        }),
      ),
  });

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

export const historyQuery = (rig: number, on: string) =>
  queryOptions({
    queryKey: keys.history(rig, on),
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/rigs/{rig_id}/log/{on}/history", { params: { path: { rig_id: String(rig), on } }, signal }),
      ),
  });
