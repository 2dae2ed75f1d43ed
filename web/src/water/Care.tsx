import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";

import { type Schemas, sentenceOf } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useWrite } from "../outbox/writing";
import { useOnce } from "../parts/once";
import { Plain } from "../parts/Plain";

type Water = Schemas["WaterOut"];

/** What the water's gear is due for, and frost; one touch logs that it was done. */
export const Care = ({ water }: { water: Water }) => {
  const log = useWrite(useRig());
  const { writes } = useRole();
  const once = useOnce();
  const [said, setSaid] = useState<string | null>(null);
  const did = (type: string, words: string) =>
    void once(type, () =>
      log({ what: { add: { event: { type, full: false } } }, words }).then(
        () => setSaid(`Logged: ${words}.`),
        (error: unknown) => setSaid(sentenceOf(error)),
      ),
    );
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
              <Plain size="sm" onClick={() => did(due.event as string, due.did as string)}>
                {due.did}
              </Plain>
            )}
          </Flex>
        ))}
      </Box>
      {writes && water.may_drain && (
        <Plain size="sm" mt="2" onClick={() => did("drain", "Drained tanks and lines")}>
          Drained tanks and lines against the frost
        </Plain>
      )}
      <Box role="status" minH="1.4em" mt="1">
        {said}
      </Box>
    </Box>
  );
};
