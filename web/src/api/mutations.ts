import { useMutation, useQueryClient } from "@tanstack/react-query";

import { client, type Schemas, take } from "./client";
import { keys } from "./keys";
import { ofBank, ofRig } from "./queries";

/** After a write everything of the rig may differ. */
const useStale = (rig: number) => {
  const queries = useQueryClient();
  return () => queries.invalidateQueries({ queryKey: keys.ofRig(rig) });
};

const entryPath = (rig: number, id: number) => ({ rig_id: String(rig), reading_id: String(id), event_id: String(id) });

/** Correct a reading or an event; what stood before is kept. */
export const useCorrect = (rig: number) =>
  useMutation({
    mutationFn: ({ id, body }: { id: number; body: Schemas["EntryIn"] }) => {
      const params = { path: entryPath(rig, id) };
      return take(
        body.reading
          ? client.PUT("/api/rigs/{rig_id}/readings/{reading_id}", { params, body })
          : client.PUT("/api/rigs/{rig_id}/events/{event_id}", { params, body }),
      );
    },
    onSuccess: useStale(rig),
  });

/** Take a reading or an event out; the history keeps it. */
export const useRemove = (rig: number) =>
  useMutation({
    mutationFn: (entry: { id: number; kind: string }) => {
      const params = { path: entryPath(rig, entry.id) };
      return take(
        entry.kind === "event"
          ? client.DELETE("/api/rigs/{rig_id}/events/{event_id}", { params })
          : client.DELETE("/api/rigs/{rig_id}/readings/{reading_id}", { params }),
      );
    },
    onSuccess: useStale(rig),
  });

/** Log entries at a time that is given; not for what may wait on this device. */
export const useAdd = (rig: number) =>
  useMutation({
    mutationFn: (entries: Schemas["EntryIn"][]) =>
      take(client.POST("/api/rigs/{rig_id}/entries", { ...ofRig(rig), body: { entries } })),
    onSuccess: useStale(rig),
  });

/** Change a logged day's own facts, one change after the other. */
export const useSetDay = (rig: number, on: string) =>
  useMutation({
    scope: { id: `day-${rig}-${on}` },
    mutationFn: (body: Schemas["DayIn"]) =>
      take(client.PUT("/api/rigs/{rig_id}/days/{on}", { params: { path: { rig_id: String(rig), on } }, body })),
    onSuccess: useStale(rig),
  });

/** Change a coming day. Each answer is a whole Horizon, and the last one shown must be that of the last change. */
export const useSetPlan = (rig: number, on: string) => {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `outlook-${rig}` },
    mutationFn: (body: Schemas["OutlookIn"]) =>
      take(client.PUT("/api/rigs/{rig_id}/outlook/{on}", { params: { path: { rig_id: String(rig), on } }, body })),
    onSuccess: (horizon) => queries.setQueryData(keys.horizon(rig), horizon),
  });
};

/** Say that a forecast was shown, so that it is judged when its end is known. */
export const useSeen = (rig: number) =>
  useMutation({
    mutationFn: (revision: number) =>
      take(client.POST("/api/rigs/{rig_id}/horizon/seen", { ...ofRig(rig), body: { revision } })),
  });

export const useChangeRig = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["RigDoc"]) => take(client.PUT("/api/rigs/{rig_id}", { ...ofRig(rig), body })),
    onSuccess: () => queries.invalidateQueries(),
  });
};

export const useSetUp = () =>
  useMutation({
    mutationFn: (body: Schemas["Answers"]) => take(client.POST("/api/rigs/set-up", { body })),
  });

export const useRating = (rig: number) =>
  useMutation({
    mutationFn: (body: Schemas["RatingIn"]) => take(client.POST("/api/rigs/{rig_id}/rating", { ...ofRig(rig), body })),
  });

export const useRun = (rig: number, bank: string | null) =>
  useMutation({
    mutationFn: (body: Schemas["RunIn"]) =>
      take(client.POST("/api/rigs/{rig_id}/energy/run", { ...ofBank(rig, bank), body })),
  });

export const useCharge = (rig: number, bank: string | null) =>
  useMutation({
    mutationFn: (body: Schemas["ChargeIn"]) =>
      take(client.POST("/api/rigs/{rig_id}/energy/charge", { ...ofBank(rig, bank), body })),
  });

export const useAcceptLoads = (rig: number, bank: string | null) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => take(client.POST("/api/rigs/{rig_id}/energy/accept-loads", ofBank(rig, bank))),
    onSuccess: () => queries.invalidateQueries(),
  });
};

export const useInvite = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (username: string) =>
      take(client.POST("/api/rigs/{rig_id}/crew", { ...ofRig(rig), body: { username } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.crew(rig) }),
  });
};

export const useDismiss = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (username: string) =>
      take(
        client.DELETE("/api/rigs/{rig_id}/crew/{username}", {
          params: { path: { rig_id: String(rig), username } },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.crew(rig) }),
  });
};

const raw = (text: string) => ({
  body: text as unknown as Record<string, never>,
  bodySerializer: () => text,
  headers: { "Content-Type": "application/json" },
});

/** What a file would bring, and what it would replace; nothing is kept. */
export const usePreview = (rig: number | null) =>
  useMutation({
    mutationFn: (file: string): Promise<Schemas["Preview"]> =>
      take(
        rig === null
          ? client.POST("/api/imports/preview", raw(file))
          : client.POST("/api/rigs/{rig_id}/import/preview", { ...ofRig(rig), ...raw(file) }),
      ),
  });

/** Import a file as a new rig, or in the place of one. */
export const useImport = (rig: number | null) =>
  useMutation({
    mutationFn: (file: string): Promise<Schemas["Imported"]> =>
      take(
        rig === null
          ? client.POST("/api/imports", raw(file))
          : client.POST("/api/rigs/{rig_id}/import", { ...ofRig(rig), ...raw(file) }),
      ),
  });

export const useSignIn = (isFirst: boolean) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["SignIn"]) =>
      take(isFirst ? client.POST("/api/account/first", { body }) : client.POST("/api/account/sign-in", { body })),
    onSuccess: (me) => queries.setQueryData(keys.me, me),
  });
};

export const useEnterDemo = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => take(client.POST("/api/account/demo")),
    onSuccess: (me) => queries.setQueryData(keys.me, me),
  });
};

export const useSignOut = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => take(client.POST("/api/account/sign-out")),
    onSuccess: async () => {
      queries.clear();
      await queries.invalidateQueries();
    },
  });
};
