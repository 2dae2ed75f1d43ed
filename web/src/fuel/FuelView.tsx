import { Box, Grid, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import { get } from "../api/asked";
import { useRig } from "../api/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Section } from "../parts/Section";
import { useTitle } from "../parts/title";
import { Burners } from "./Burners";
import { CanIBurn } from "./CanIBurn";
import { Engines } from "./Engines";
import { Heat } from "./Heat";
import { HeatGear } from "./HeatGear";
import { MustStay } from "./MustStay";
import { Spares } from "./Spares";
import { Stores } from "./Stores";

const Two = ({ children }: { children: ReactNode }) => (
  <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} columnGap="10">
    {children}
  </Grid>
);

/** Gas, heat and fuel: how many cold nights are left, what ends them, what must stay in the tank. */
export const FuelView = () => {
  useTitle("Gas and fuel");
  const answer = useQuery(get(useRig(), "/fuel"));
  if (answer.isPending) return <Waiting what="gas, heat and fuel" why={answer.failureReason} />;
  if (answer.isError && !answer.data) return <Refused error={answer.error} again={() => void answer.refetch()} />;
  const fuel = answer.data;
  return (
    <Box maxW="76rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }} mb="2">
        {fuel.headline}
      </Heading>
      <Box fontSize={{ base: "md", md: "lg" }} color="soft" mb="6" maxW="62rem">
        {fuel.heat?.ends ?? fuel.no_heat}
      </Box>
      <Two>
        <Box minW="0">
          <Section title="Nights ahead">
            <Heat fuel={fuel} />
            <HeatGear fuel={fuel} />
          </Section>
          <Section title="What burns">
            <Burners fuel={fuel} />
          </Section>
        </Box>
        <Box minW="0">
          <Section title="Bottles and tanks">
            <Stores fuel={fuel} />
            <Spares fuel={fuel} />
          </Section>
          <Section title="What must stay">
            <MustStay fuel={fuel} />
          </Section>
          <Section title="Can I run it?">
            <CanIBurn fuel={fuel} />
          </Section>
          <Section title="Generator, engine, post">
            <Engines fuel={fuel} />
          </Section>
        </Box>
      </Two>
      <Box color="soft" fontSize="sm">
        {fuel.cautions.join(" ")}
      </Box>
    </Box>
  );
};
