import { Box, Flex } from "@chakra-ui/react";
import { useEffect, useState } from "react";

import { Plain } from "../parts/Plain";

/** Keeps the shell on this device, and offers a new version when there is one; it is never put in by itself. */
export const Update = () => {
  const [load, setLoad] = useState<(() => void) | null>(null);
  useEffect(() => {
    if (!("serviceWorker" in navigator)) return;
    void import("virtual:pwa-register").then(({ registerSW }) => {
      const update = registerSW({ onNeedRefresh: () => setLoad(() => () => void update(true)) });
    });
  }, []);
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
