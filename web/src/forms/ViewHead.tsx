import { Box, Heading } from "@chakra-ui/react";
import type { ReactNode } from "react";

import { NextStep } from "./NextStep";

/** The head of a view that concerns stores: what is, what to do next, and how sure it is. */
export const ViewHead = ({
  title,
  part,
  here,
  children,
}: {
  title: string;
  part?: string;
  /** What is done next is done on this very view. */
  here?: boolean;
  children?: ReactNode;
}) => (
  <Box mb={{ base: "3", md: "4" }}>
    <Heading
      as="h1"
      fontFamily="heading"
      fontSize={{ base: "xl", md: "3xl" }}
      lineHeight="1.2"
      fontWeight="600"
      data-part={part}
      aria-live="polite"
    >
      {title}
    </Heading>
    <NextStep here={here} />
    <Box fontSize={{ base: "md", md: "lg" }} color="soft" maxW="62rem">
      {children}
    </Box>
  </Box>
);
