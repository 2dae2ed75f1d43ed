import { Box, chakra, Heading } from "@chakra-ui/react";
import type { ReactNode } from "react";

import { useIsPhone } from "./phone";

/** A part of a view under its own heading. On a phone what answers a question of its own is folded under it: ``folds``. */
export const Section = ({ title, folds, children }: { title: string; folds?: boolean; children: ReactNode }) => {
  const folded = useIsPhone() && folds;
  const head = (
    <Heading as="h2" size={{ base: "md", md: "lg" }} fontFamily="heading" mb={folded ? "0" : "3"}>
      {title}
    </Heading>
  );
  return (
    <Box as="section" aria-label={title} mb={{ base: folded ? "0" : "5", md: "8" }} minW="0">
      {folded ? (
        <Box asChild borderTopWidth="1px" borderColor="rule">
          <details>
            <chakra.summary cursor="pointer">{head}</chakra.summary>
            <Box pt="1" pb="4">
              {children}
            </Box>
          </details>
        </Box>
      ) : (
        <>
          {head}
          {children}
        </>
      )}
    </Box>
  );
};
