import { Box, Heading } from "@chakra-ui/react";
import type { ReactNode } from "react";

import type { Schemas } from "../api/client";
import type { RigDoc, Units } from "./fields";

export const Section = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb="8">
    <Heading as="h2" size="lg" fontFamily="heading" mb="3" pb="1" borderBottomWidth="1px" borderColor="rule">
      {title}
    </Heading>
    {children}
  </Box>
);

/** What the server says of the figures at one place. */
export const Checks = ({ checks, place }: { checks: Schemas["CheckOut"][]; place: string }) => (
  <Box as="ul" listStyleType="none" mb="2">
    {checks
      .filter((check) => check.place === place)
      .map((check) => (
        <Box as="li" key={check.words} color={check.warns ? "warn" : "soft"} fontSize="sm">
          {check.words}
        </Box>
      ))}
  </Box>
);

/** The rig as it is being changed. */
export interface Edited {
  doc: RigDoc;
  units: Units;
  checks: Schemas["CheckOut"][];
  assumed: (path: string) => boolean;
  change: (doc: RigDoc) => void;
}
