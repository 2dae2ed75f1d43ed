import { queryOptions, useMutation } from "@tanstack/react-query";

import { useChange } from "./change";
import { client, type Schemas, take } from "./client";
import { keys } from "./keys";
import { ofRig } from "./queries";

/** Levers, places, the plan, tickets and the calendar: what is asked and what is decided. */

export const rigLeversQuery = (rig: number, until: string | null, enabled: boolean) =>
  queryOptions({
    queryKey: keys.rigLevers(rig, until),
    enabled,
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/rigs/{rig_id}/levers", {
          params: { path: { rig_id: String(rig) }, query: until ? { until } : {} },
          signal,
        }),
      ),
    placeholderData: (before) => before,
  });

export const stayQuery = (rig: number, until: string, sure: number, enabled: boolean) =>
  queryOptions({
    queryKey: keys.stay(rig, until, sure),
    enabled: enabled && until !== "",
    queryFn: ({ signal }) =>
      take(client.POST("/api/rigs/{rig_id}/stay", { ...ofRig(rig), body: { until, sure }, signal })),
  });

export const placesQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.places(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/places", { ...ofRig(rig), signal })),
  });

export const placeQuery = (rig: number, place: string) =>
  queryOptions({
    queryKey: keys.place(rig, place),
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/rigs/{rig_id}/places/{place_id}", {
          params: { path: { rig_id: String(rig), place_id: place } },
          signal,
        }),
      ),
  });

export const planQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.plan(rig),
    staleTime: 60_000,
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/plan", { ...ofRig(rig), signal })),
  });

export const ticketsQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.tickets(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/tickets", { ...ofRig(rig), signal })),
  });

export const ticketQuery = (rig: number, ticket: number) =>
  queryOptions({
    queryKey: keys.ticket(rig, ticket),
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/rigs/{rig_id}/tickets/{ticket_id}", {
          params: { path: { rig_id: String(rig), ticket_id: ticket } },
          signal,
        }),
      ),
  });

export const feedQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.feed(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/calendar", { ...ofRig(rig), signal })),
  });

export const useAgree = (rig: number) =>
  useChange((body: Schemas["AgreeIn"]) => take(client.POST("/api/rigs/{rig_id}/agreed", { ...ofRig(rig), body })), rig);

export const useAgreeNoMore = (rig: number) =>
  useChange(
    (lever: string) => take(client.POST("/api/rigs/{rig_id}/agreed/end", { ...ofRig(rig), body: { lever } })),
    rig,
  );

export const useHardship = (rig: number) =>
  useChange(
    (body: Schemas["HardshipIn"]) => take(client.PUT("/api/rigs/{rig_id}/hardship", { ...ofRig(rig), body })),
    rig,
  );

export const usePlanStop = (rig: number) =>
  useChange(
    (body: Schemas["PlanStopIn"]) => take(client.POST("/api/rigs/{rig_id}/plan/stops", { ...ofRig(rig), body })),
    rig,
  );

export const usePlanStopOn = (rig: number) =>
  useChange(
    (body: Schemas["PlanOnIn"]) => take(client.POST("/api/rigs/{rig_id}/plan/stops/on", { ...ofRig(rig), body })),
    rig,
  );

export const useUnplanStop = (rig: number) =>
  useChange(
    (body: Schemas["StopRef"]) => take(client.POST("/api/rigs/{rig_id}/plan/stops/remove", { ...ofRig(rig), body })),
    rig,
  );

export const useRisk = (rig: number) =>
  useChange((risk: number) => take(client.PUT("/api/rigs/{rig_id}/plan/risk", { ...ofRig(rig), body: { risk } })), rig);

export const useOpenTicket = (rig: number) =>
  useChange(
    (body: Schemas["StopRef"]) => take(client.POST("/api/rigs/{rig_id}/tickets", { ...ofRig(rig), body })),
    rig,
  );

/** Keep a place: a new one, or one that stands in the book. */
export const useKeepPlace = (rig: number, place: string | null) =>
  useChange(
    (body: Schemas["SpotIn"]) =>
      take(
        place === null
          ? client.POST("/api/rigs/{rig_id}/places", { ...ofRig(rig), body })
          : client.PUT("/api/rigs/{rig_id}/places/{place_id}", {
              params: { path: { rig_id: String(rig), place_id: place } },
              body,
            }),
      ),
    rig,
  );

export const useRemovePlace = (rig: number) =>
  useChange(
    (place: string) =>
      take(
        client.DELETE("/api/rigs/{rig_id}/places/{place_id}", {
          params: { path: { rig_id: String(rig), place_id: place } },
        }),
      ),
    rig,
  );

/** What a file of places would bring; nothing is kept. */
export const usePreviewPlaces = (rig: number) =>
  useMutation({
    mutationFn: (text: string) =>
      take(client.POST("/api/rigs/{rig_id}/places/preview", { ...ofRig(rig), body: { text, format: null } })),
  });

export const useImportPlaces = (rig: number) =>
  useChange(
    (text: string) =>
      take(client.POST("/api/rigs/{rig_id}/places/import", { ...ofRig(rig), body: { text, format: null } })),
    rig,
  );

export const useRenewFeed = (rig: number) =>
  useMutation({
    mutationFn: (positions: boolean) =>
      take(client.POST("/api/rigs/{rig_id}/calendar", { ...ofRig(rig), body: { positions } })),
  });

export const useEndFeed = (rig: number) =>
  useChange(() => take(client.DELETE("/api/rigs/{rig_id}/calendar", ofRig(rig))), rig);
