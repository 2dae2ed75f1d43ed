import { Box } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";

import { behindOf } from "../api/client";
import { useSettled } from "../parts/settled";
import { localOf, momentWords } from "../parts/words";

/** What is there again in a moment need not be spoken of. */
const SOON_MS = 1500;

/** Says that what is shown is of a moment ago, while the server works out what was written since. */
export const Behind = () => {
  const cache = useQueryClient().getQueryCache();
  const shown = useSyncExternalStore(
    (notify) => cache.subscribe(notify),
    () => {
      const behind = cache
        .getAll()
        .filter((query) => query.isActive())
        .map((query) => behindOf(query.state.data))
        .find((each) => each !== null);
      return behind ? `${behind.at} ${behind.progress}` : "";
    },
  );
  const lasts = useSettled(shown !== "", SOON_MS);
  if (!lasts || shown === "") return null;
  const [at, progress] = shown.split(" ");
  return (
    <Box role="status" px={{ base: "3", md: "6" }} py="2" color="soft" data-part="behind">
      As of {momentWords({ at: "", ...localOf(Date.parse(at ?? "")) })}. What was logged since is being worked out:{" "}
      {Math.round(Number(progress) * 100)} % done.
    </Box>
  );
};
