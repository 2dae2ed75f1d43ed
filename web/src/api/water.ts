import { queryOptions } from "@tanstack/react-query";

import { useChange } from "./change";
import { client, type Schemas, take } from "./client";
import { keys } from "./keys";
import { ofRig } from "./queries";

/** Water and waste: what is known, what is asked and what is said of the rig. */

export const waterQuery = (rig: number) =>
  queryOptions({
    queryKey: keys.water(rig),
    queryFn: ({ signal }) => take(client.GET("/api/rigs/{rig_id}/water", { ...ofRig(rig), signal })),
  });

export const rationQuery = (rig: number, until: string, sure: number, enabled: boolean) =>
  queryOptions({
    queryKey: keys.ration(rig, until, sure),
    enabled: enabled && until !== "",
    queryFn: ({ signal }) =>
      take(client.POST("/api/rigs/{rig_id}/water/ration", { ...ofRig(rig), body: { until, sure }, signal })),
    placeholderData: (before) => before,
  });

export const useKeepRation = (rig: number) =>
  useChange(
    (body: Schemas["RationIn"]) => take(client.POST("/api/rigs/{rig_id}/water/ration/keep", { ...ofRig(rig), body })),
    rig,
  );
