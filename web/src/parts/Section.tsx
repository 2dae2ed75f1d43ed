import { Box, Heading } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A part of a view under its own heading. */
export const Section = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb="8" minW="0">
    <Heading as="h2" size="lg" fontFamily="heading" mb="3">
      {title}
    </Heading>
    {children}
  </Box>
);
