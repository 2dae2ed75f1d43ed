import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";

import { type Schemas, sentenceOf } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useWrite } from "../outbox/writing";
import { useOnce } from "../parts/once";
import { Plain } from "../parts/Plain";

/** What is in each bottle, tank and can; one touch logs that another is in use, filled or poured in. */
export const Stores = ({ fuel }: { fuel: Schemas["FuelOut"] }) => {
  const log = useWrite(useRig());
  const { writes } = useRole();
  const once = useOnce();
  const [said, setSaid] = useState<string | null>(null);
  const did = ({ label, ...event }: Schemas["DoOut"]) =>
    void once(label, () =>
      log({ what: { add: { event } }, words: label }).then(
        () => setSaid(`Logged: ${label}.`),
        (error: unknown) => setSaid(sentenceOf(error)),
      ),
    );
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
                {store.acts.map((act) => (
                  <Plain key={act.label} size="sm" onClick={() => did(act)}>
                    {act.label}
                  </Plain>
                ))}
              </Flex>
            )}
          </Box>
        ))}
      </Box>
      <Box role="status" minH="1.4em" mt="1">
        {said}
      </Box>
    </Box>
  );
};
