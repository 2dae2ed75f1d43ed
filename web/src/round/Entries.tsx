import { Box, HStack } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useRemove } from "../api/mutations";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** Today's log as it stands; a slip is undone, and the log's history keeps it. */
export const Entries = ({ rig, entries }: { rig: number; entries: Schemas["EntryOut"][] }) => {
  const undo = useRemove(rig);
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
                {entry.at.time}
              </Box>
              {entry.words}
            </Box>
            <Plain size="sm" aria-label={`Undo: ${entry.words}`} onClick={() => undo.mutate(entry)}>
              Undo
            </Plain>
          </HStack>
        ))}
      </Box>
      <Problem error={undo.error} />
    </>
  );
};
