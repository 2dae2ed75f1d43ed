import { useQueryClient } from "@tanstack/react-query";

import { useChange } from "./change";
import { keys } from "./keys";

interface Own {
  from: number;
  to: number;
}

interface Seen {
  params: { path: { rig_id: string }; query: { saw: number } };
}

/** A change of a rig's document, from what is shown or from what changes of one's own have made of that: a second change
 *  need not wait until the first has come round. */
export const useChangeSeen = <Given, Answer extends { revision: number }>(
  change: (given: Given, seen: Seen) => Promise<Answer>,
  rig: number,
  shown: number,
) => {
  const queries = useQueryClient();
  return useChange(
    async (given: Given) => {
      const own = queries.getQueryData<Own>(keys.own(rig));
      const ours = own && shown >= own.from && shown <= own.to ? own : null;
      const saw = ours?.to ?? shown;
      const answer = await change(given, { params: { path: { rig_id: String(rig) }, query: { saw } } });
      queries.setQueryData<Own>(keys.own(rig), { from: ours?.from ?? saw, to: answer.revision });
      return answer;
    },
    rig,
    `document-${rig}`,
  );
};
