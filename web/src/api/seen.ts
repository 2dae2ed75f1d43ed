import { useMutation, useQueryClient } from "@tanstack/react-query";

import { keys } from "./keys";

interface Own {
  from: number;
  to: number;
}

/** A change of a rig's document, from what is shown or from what changes of one's own have made of that: a second change
 *  need not wait until the first has come round. */
export const useChangeSeen = <Given, Answer extends { revision: number }>(
  change: (given: Given, saw: number) => Promise<Answer>,
  rig: number,
  shown: number,
) => {
  const queries = useQueryClient();
  return useMutation({
    // those of one document wait for each other
    scope: { id: `document-${rig}` },
    mutationFn: async (given: Given) => {
      const own = queries.getQueryData<Own>(keys.own(rig));
      const ours = own && shown >= own.from && shown <= own.to ? own : null;
      const saw = ours?.to ?? shown;
      const answer = await change(given, saw);
      queries.setQueryData<Own>(keys.own(rig), { from: ours?.from ?? saw, to: answer.revision });
      return answer;
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.ofRig(rig) }),
  });
};
