import { queryOptions, useMutation } from "@tanstack/react-query";

import { client, type Schemas, take } from "./client";
import { keys } from "./keys";
import { ofRig } from "./queries";
import { useChangeSeen } from "./seen";

/** Gas, heat and fuel: what is known, what is asked and what is said of the rig. */

export const fuelQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.fuel(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/fuel", { ...ofRig(rig), signal })),
  });

export const useCanBurn = (rig: number) =>
  useMutation({
    mutationFn: (body: Schemas["BurnIn"]) => take(client.POST("/api/rigs/{rig_id}/fuel/run", { ...ofRig(rig), body })),
  });

export const useAcceptBurns = (rig: number, shown: number) =>
  useChangeSeen(
    (store: string, seen) => take(client.POST("/api/rigs/{rig_id}/fuel/accept", { ...seen, body: { store } })),
    rig,
    shown,
  );
