import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";

import { get, ofBank } from "../api/asked";
import { useRig } from "../api/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Sheet } from "../parts/Sheet";

const HEADS = ["Change", "Next low", "Days left", "Holds 14 days", "Days without sun", "Effect"];

/** What each change of rig or habit would do, from the same paths. */
export const Levers = ({ bank }: { bank: string | null }) => {
  const levers = useQuery(get(useRig(), "/energy/levers", { query: ofBank(bank) }));
  if (levers.isPending) return <Waiting what="what would help" why={levers.failureReason} />;
  if (levers.isError) return <Refused error={levers.error} again={() => void levers.refetch()} />;
  return (
    <Sheet
      name="What would help"
      heads={HEADS}
      rows={levers.data.map((lever) => [
        <Box key="name" color={lever.has_effect ? "ink" : "soft"}>
          {lever.name}
        </Box>,
        ...lever.cells,
      ])}
    />
  );
};
