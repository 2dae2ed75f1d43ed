import { Box, Grid } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import { get } from "../api/asked";
import { useRig } from "../api/rig";
import { ViewHead } from "../forms/ViewHead";
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
      <ViewHead title={fuel.headline}>
        {fuel.heat?.ends ?? fuel.no_heat} {fuel.heat && fuel.after}
      </ViewHead>
      <Two>
        <Box minW="0">
          <Section title="Nights ahead">
            <Heat fuel={fuel} />
            <HeatGear fuel={fuel} />
          </Section>
          <Section title="What burns" folds>
            <Burners fuel={fuel} />
          </Section>
        </Box>
        <Box minW="0">
          <Section title="Bottles and tanks">
            <Stores fuel={fuel} />
            <Spares fuel={fuel} />
          </Section>
          <Section title="What must stay" folds>
            <MustStay fuel={fuel} />
          </Section>
          <Section title="Can I run it?" folds>
            <CanIBurn fuel={fuel} />
          </Section>
          <Section title="Generator, engine, post" folds>
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
