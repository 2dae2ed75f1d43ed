import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useDid } from "../forms/did";
import { oneTouch } from "../forms/events";
import { Plain } from "../parts/Plain";

/** What is done as a rule, with nothing to be asked; the rest stands in the Round. */
const isOneTouch = (act: Schemas["ActOut"]): boolean => !act.rare && oneTouch(act) !== null;

/** What is in each bottle, tank and can; one touch logs that another is in use, filled or poured in. */
export const Stores = ({ fuel }: { fuel: Schemas["FuelOut"] }) => {
  const { touch, said } = useDid(useRig());
  const { writes } = useRole();
  if (fuel.stores.length === 0) return <Box color="soft">No gas, fuel or wood is listed on the Rig view.</Box>;
  return (
    <Box>
      <Box as="ul" listStyleType="none" aria-label="Bottles and tanks">
        {fuel.stores.map((store) => (
          <Box as="li" key={store.store} py="2" borderTopWidth="1px" borderColor="rule" data-store={store.store}>
            <Box>{store.words}</Box>
            {store.cold && (
              <Box color="warn" role="note">
                {store.cold}
              </Box>
            )}
            {store.apart.map((line) => (
              <Box key={line} pl="4" color="soft">
                {line}
              </Box>
            ))}
            {store.full_ones && <Box color="soft">{store.full_ones}</Box>}
            {writes && store.acts.length > 0 && (
              <Flex gap="2" wrap="wrap" mt="1.5">
                {store.acts.filter(isOneTouch).map((act) => (
                  <Plain
                    key={act.label}
                    size="sm"
                    onClick={() => touch(act.label, oneTouch(act) as Schemas["EventIn"])}
                  >
                    {act.label}
                  </Plain>
                ))}
              </Flex>
            )}
          </Box>
        ))}
      </Box>
      {said}
    </Box>
  );
};
