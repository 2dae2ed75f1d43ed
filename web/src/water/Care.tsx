import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useDid } from "../forms/did";
import { Plain } from "../parts/Plain";

type Water = Schemas["WaterOut"];

/** What the water's gear is due for, and frost; one touch logs that it was done. */
export const Care = ({ water }: { water: Water }) => {
  const { touch, said } = useDid(useRig());
  const { writes } = useRole();
  return (
    <Box>
      {water.frost.map((line) => (
        <Box key={line} color="warn" role="note">
          {line}
        </Box>
      ))}
      <Box as="ul" listStyleType="none" aria-label="What is due">
        {water.due.map((due) => (
          <Flex
            key={`${due.id}-${due.words}`}
            as="li"
            justify="space-between"
            align="center"
            gap="3"
            wrap="wrap"
            py="1.5"
            borderTopWidth="1px"
            borderColor="rule"
            data-due={due.due}
          >
            <Box flex="1 1 16rem" color={due.due ? "warn" : "ink"}>
              {due.words}
            </Box>
            {writes && due.event && due.did && (
              <Plain size="sm" onClick={() => touch(due.did as string, { type: due.event as string, full: false })}>
                {due.did}
              </Plain>
            )}
          </Flex>
        ))}
      </Box>
      {writes && water.may_drain && (
        <Plain size="sm" mt="2" onClick={() => touch("Drained tanks and lines", { type: "drain", full: false })}>
          Drained tanks and lines against the frost
        </Plain>
      )}
      {said}
    </Box>
  );
};
