import { Box, Flex } from "@chakra-ui/react";
import { useIsFetching } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import { Plain } from "../parts/Plain";

/** On a slow line what is kept for the next time waits until what is looked at now has come. */
const QUIET_MS = 300;

/** Keeps the shell on this device, and offers a new version when there is one; it is never put in by itself. */
export const Update = () => {
  const [load, setLoad] = useState<(() => void) | null>(null);
  const isQuiet = useIsFetching() === 0;
  const isKept = useRef(false);
  useEffect(() => {
    if (!isQuiet || isKept.current || !("serviceWorker" in navigator)) return;
    const soon = setTimeout(() => {
      isKept.current = true;
      void import("virtual:pwa-register").then(({ registerSW }) => {
        const update = registerSW({ onNeedRefresh: () => setLoad(() => () => void update(true)) });
      });
    }, QUIET_MS);
    return () => clearTimeout(soon);
  }, [isQuiet]);
  if (load === null) return null;
  return (
    <Flex role="status" bg="sunken" px={{ base: "3", md: "6" }} py="2" gap="3" align="center" wrap="wrap">
      <Box>A new version of Lodeline is ready.</Box>
      <Plain size="sm" onClick={load}>
        Load it now
      </Plain>
    </Flex>
  );
};
