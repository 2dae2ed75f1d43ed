import { Box, HStack } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useCorrect } from "../outbox/writes";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { momentWords } from "../parts/words";

/** Where a device's clock was off when something was logged, both times are kept and the person says which is right. */
export const WhichTime = ({ rig, entry, saw }: { rig: number; entry: Schemas["EntryOut"]; saw: number }) => {
  const correct = useCorrect(rig, saw);
  if (!entry.device_at) return null;
  const settle = (at: Schemas["Moment"]) =>
    correct.mutate({ entry, to: { reading: null, event: null, on: at.date, time: at.time } });
  return (
    <Box pl="3" my="1" borderLeftWidth="3px" borderColor="warn" fontSize="sm">
      The clock of the device said {momentWords(entry.device_at)}; by Lodeline it was {momentWords(entry.at)}. Which is
      right?
      <HStack mt="1" wrap="wrap">
        {[entry.at, entry.device_at].map((at) => (
          <Plain key={at.at} size="sm" disabled={correct.isPending} onClick={() => settle(at)}>
            {momentWords(at)}
          </Plain>
        ))}
      </HStack>
      <Problem error={correct.error} />
    </Box>
  );
};
