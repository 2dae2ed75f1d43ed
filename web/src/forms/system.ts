import { useQueryClient } from "@tanstack/react-query";

import { useRig } from "../api/rig";
import { rigQuery, roundQuery } from "../api/queries";
import type { System } from "../notation/shown";

/** The units that this rig's people think in, as far as an answer has said: whose gallon they mean. */
export const useSystem = (): System => {
  const queries = useQueryClient();
  const rig = useRig();
  const known =
    queries.getQueryData(roundQuery(rig).queryKey)?.units ?? queries.getQueryData(rigQuery(rig).queryKey)?.doc.units;
  return (known ?? "metric") as System;
};
