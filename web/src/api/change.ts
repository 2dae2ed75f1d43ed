import { useMutation, useQueryClient } from "@tanstack/react-query";

import { keys } from "./keys";

/** A change of what a crew decides or says; everything that follows from it is asked anew. */
export const useChange = <Given, Answer>(change: (given: Given) => Promise<Answer>, rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.ofRig(rig) }),
  });
};
