import { Box } from "@chakra-ui/react";

import { localOf, momentWords } from "../parts/words";

/** Says that what is shown is of a moment ago, while the server works out what was written since. */
export const Behind = ({ shown }: { shown: string }) => {
  const [at, progress] = shown.split(" ");
  return (
    <Box role="status" px={{ base: "3", md: "6" }} py="2" color="soft" data-part="behind">
      As of {momentWords({ at: "", ...localOf(Date.parse(at ?? "")) })}. What was logged since is being worked out:{" "}
      {Math.round(Number(progress) * 100)} % done.
    </Box>
  );
};
