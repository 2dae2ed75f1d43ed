import { Box } from "@chakra-ui/react";

import { CAME, useCameOf } from "../outbox/writing";

/** What was entered, and the id under which it waits on this device, where it does. */
export interface Outcome {
  words: string;
  id: string | null;
}

/** What came of an entry, also after it was sent at last. */
export const Came = ({ words, id, kept }: Outcome & { kept: string }) => {
  const came = useCameOf(id);
  return <Box color={came === "refused" ? "warn" : "good"}>{`${came === "kept" ? kept : CAME[came]}: ${words}`}</Box>;
};
