import { queryOptions } from "@tanstack/react-query";

import { client, type Schemas, take } from "./client";

export const meQuery = queryOptions({
  queryKey: ["me"],
  queryFn: ({ signal }) => take(client.GET("/api/account/me", { signal })),
  staleTime: 60_000,
});

const path = (rig: number) => ({ params: { path: { rig_id: String(rig) } } });

export const horizonQuery = (rig: number) =>
  queryOptions({
    queryKey: ["rig", rig, "horizon"],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/horizon", { ...path(rig), signal })),
  });

export const roundQuery = (rig: number) =>
  queryOptions({
    queryKey: ["rig", rig, "round"],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/round", { ...path(rig), signal })),
  });

export const rigQuery = (rig: number) =>
  queryOptions({
    queryKey: ["rig", rig, "rig"],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}", { ...path(rig), signal })),
  });

export const reviewQuery = (rig: number) =>
  queryOptions({
    queryKey: ["rig", rig, "review"],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/review", { ...path(rig), signal })),
  });

const bankPath = (rig: number, bank: string | null) => ({
  params: { path: { rig_id: String(rig) }, query: bank ? { bank } : {} },
});

export const energyQuery = (rig: number, bank: string | null) =>
  queryOptions({
    queryKey: ["rig", rig, "energy", bank],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/energy", { ...bankPath(rig, bank), signal })),
  });

export const leversQuery = (rig: number, bank: string | null) =>
  queryOptions({
    queryKey: ["rig", rig, "levers", bank],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/energy/levers", { ...bankPath(rig, bank), signal })),
  });

export const askRun = (rig: number, bank: string | null, body: Schemas["RunIn"]) =>
  take(client.POST("/api/rigs/{rig_id}/energy/run", { ...bankPath(rig, bank), body }));

export const askCharge = (rig: number, bank: string | null, body: Schemas["ChargeIn"]) =>
  take(client.POST("/api/rigs/{rig_id}/energy/charge", { ...bankPath(rig, bank), body }));

export const acceptLoads = (rig: number, bank: string | null) =>
  take(client.POST("/api/rigs/{rig_id}/energy/accept-loads", bankPath(rig, bank)));

export const gaugesQuery = (rig: number) =>
  queryOptions({
    queryKey: ["rig", rig, "gauges"],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/gauges", { ...path(rig), signal })),
  });

export const crewQuery = (rig: number) =>
  queryOptions({
    queryKey: ["rig", rig, "crew"],
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/crew", { ...path(rig), signal })),
  });

export const logPage = (rig: number, before: string | undefined, signal: AbortSignal) =>
  take(
    client.GET("/api/rigs/{rig_id}/log", {
      params: { path: { rig_id: String(rig) }, query: before ? { before } : {} },
      signal,
    }),
  );

export const historyQuery = (rig: number, on: string) =>
  queryOptions({
    queryKey: ["rig", rig, "history", on],
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/rigs/{rig_id}/log/{on}/history", { params: { path: { rig_id: String(rig), on } }, signal }),
      ),
  });
