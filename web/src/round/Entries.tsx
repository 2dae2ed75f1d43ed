import { Box, HStack } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { client, type Schemas, take } from "../api/client";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { clock } from "../parts/words";

/** Take a reading or an event back; the log's history keeps it. */
export const useTakeBack = (rig: number) => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (entry: { id: number; kind: string }) =>
      entry.kind === "event"
        ? take(
            client.DELETE("/api/rigs/{rig_id}/events/{event_id}", {
              params: { path: { rig_id: String(rig), event_id: String(entry.id) } },
            }),
          )
        : take(
            client.DELETE("/api/rigs/{rig_id}/readings/{reading_id}", {
              params: { path: { rig_id: String(rig), reading_id: String(entry.id) } },
            }),
          ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["rig", rig] }),
  });
};

/** Today's log as it stands. */
export const Entries = ({ rig, entries }: { rig: number; entries: Schemas["Entry"][] }) => {
  const back = useTakeBack(rig);
  if (entries.length === 0) return <Box color="soft">Nothing is logged today yet.</Box>;
  return (
    <>
      <Box as="ul" listStyleType="none">
        {entries.map((entry) => (
          <HStack
            as="li"
            key={`${entry.kind}${entry.id}`}
            justify="space-between"
            py="1"
            borderBottomWidth="1px"
            borderColor="rule"
          >
            <Box>
              <Box as="span" color="soft" mr="2">
                {clock(entry.at)}
              </Box>
              {entry.words}
            </Box>
            <Plain size="sm" aria-label={`Take back: ${entry.words}`} onClick={() => back.mutate(entry)}>
              Take back
            </Plain>
          </HStack>
        ))}
      </Box>
      <Problem error={back.error} />
    </>
  );
};
