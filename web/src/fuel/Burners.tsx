import { Box, Flex } from "@chakra-ui/react";
import { Link as RouterLink } from "react-router";

import { ask } from "../api/asked";
import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useChangeSeen } from "../api/seen";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** A share as a thin length on one scale. */
const Share = ({ share }: { share: number }) => (
  <Box width="6rem" height="10px" flexShrink={0} borderWidth="1px" borderColor="rule" aria-hidden>
    <Box height="100%" width={`${100 * share}%`} bg="hue.rust.line" />
  </Box>
);

/** The list of what burns with its parts, held against what the log shows. */
export const Burners = ({ fuel }: { fuel: Schemas["FuelOut"] }) => {
  const rig = useRig();
  const { owns } = useRole();
  const accept = useChangeSeen(
    (store: string, saw) => ask(rig, "post", "/fuel/accept", { query: { saw }, body: { store } }),
    rig,
    fuel.revision,
  );
  return (
    <Box>
      {fuel.burns.length === 0 && <Box color="soft">Nothing is listed that burns.</Box>}
      <Box as="ul" listStyleType="none" aria-label="What burns">
        {fuel.burns.map((burn) => (
          <Box as="li" key={burn.id} py="2" borderTopWidth="1px" borderColor="rule">
            <Flex gap="3" align="center" wrap="wrap">
              <Box fontWeight="600">{burn.name}</Box>
              <Share share={burn.share} />
              <Box color="soft" fontSize="sm">
                {burn.share_words}
              </Box>
            </Flex>
            <Box>{burn.words}</Box>
          </Box>
        ))}
      </Box>
      {fuel.listed.map((listed) => (
        <Box key={listed.store} mt="3" color={listed.apart ? "warn" : "ink"} data-listed={listed.store}>
          {listed.words}
          {owns && listed.apart && (
            <Plain
              size="sm"
              display="flex"
              mt="1"
              disabled={accept.isPending}
              onClick={() => accept.mutate(listed.store)}
            >
              Make the list what the log shows
            </Plain>
          )}
        </Box>
      ))}
      <Problem error={accept.error} />
      <Box mt="3">
        <RouterLink to="/rig">
          <Box as="span" textDecoration="underline">
            Change the list on the Rig view
          </Box>
        </RouterLink>
      </Box>
    </Box>
  );
};
