import { queryOptions, useMutation } from "@tanstack/react-query";

import { useChange } from "./change";
import { client, type Schemas, take } from "./client";
import { keys } from "./keys";
import { ofRig } from "./queries";

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

const seen = (rig: number, saw: number) => ({ params: { path: { rig_id: String(rig) }, query: { saw } } });

export const useSetFuel = (rig: number, saw: number) =>
  useChange(
    (body: Schemas["FuelAboardIn"]) => take(client.PUT("/api/rigs/{rig_id}/fuel/aboard", { ...seen(rig, saw), body })),
    rig,
  );

export const useAcceptBurns = (rig: number, saw: number) =>
  useChange(
    (store: string) => take(client.POST("/api/rigs/{rig_id}/fuel/accept", { ...seen(rig, saw), body: { store } })),
    rig,
  );
