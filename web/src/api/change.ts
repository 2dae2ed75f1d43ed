import { useMutation, useQueryClient } from "@tanstack/react-query";

import { keys } from "./keys";

/** A change of what a crew decides or says; everything that follows from it is asked anew. Those of one ``turn`` wait for
 *  each other. */
export const useChange = <Given, Answer>(change: (given: Given) => Promise<Answer>, rig: number, turn?: string) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    ...(turn && { scope: { id: turn } }),
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.ofRig(rig) }),
  });
};
