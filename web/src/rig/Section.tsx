import { Box, Heading } from "@chakra-ui/react";
import { createContext, type ReactNode, useContext } from "react";

import type { Schemas } from "../api/client";
import type { Units } from "../forms/rig";

/** What is known of the rig while it is being changed: units, what does not fit, what is only assumed. */
interface Aboard {
  units: Units;
  checks: Schemas["CheckOut"][];
  cautions: readonly string[];
  assumed: readonly string[];
}

export const AboardContext = createContext<Aboard>({ units: {}, checks: [], cautions: [], assumed: [] });
export const useAboard = (): Aboard => useContext(AboardContext);

const ASSUMED = "assumed, common practice";

/** A remark under what the set-up filled in and nobody changed yet. */
export const useAssumed = (): ((path: string) => string | undefined) => {
  const { assumed } = useAboard();
  return (path) => (assumed.includes(path) ? ASSUMED : undefined);
};

export const Section = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb="8">
    <Heading as="h2" size="lg" fontFamily="heading" mb="3" pb="1" borderBottomWidth="1px" borderColor="rule">
      {title}
    </Heading>
    {children}
  </Box>
);

/** What the server says of the figures at one place. */
export const Checks = ({ place }: { place: string }) => (
  <Box as="ul" listStyleType="none" mb="2">
    {useAboard()
      .checks.filter((check) => check.place === place)
      .map((check) => (
        <Box as="li" key={check.words} color={check.warns ? "warn" : "soft"} fontSize="sm">
          {check.words}
        </Box>
      ))}
  </Box>
);
