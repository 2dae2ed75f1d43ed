import { Box, Grid } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { isSettled } from "../api/fetched";
import { useRig } from "../api/rig";
import { ViewHead } from "../forms/ViewHead";
import { Refused, Waiting } from "../parts/Notice";
import { Section } from "../parts/Section";
import { useTitle } from "../parts/title";
import { BalanceDrawing } from "./BalanceDrawing";
import { Care } from "./Care";
import { Gear } from "./Gear";
import { Habits } from "./Habits";
import { HistoryDrawing } from "./HistoryDrawing";
import { Jugs } from "./Jugs";
import { Ration } from "./Ration";
import { Uses } from "./Uses";
import { Waste } from "./Waste";

type Water = Schemas["WaterOut"];

const Two = ({ children }: { children: ReactNode }) => (
  <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} columnGap="10">
    {children}
  </Grid>
);

const Known = ({ water, settled }: { water: Water; settled: boolean }) => (
  <Two>
    <Section title="A ration">
      <Ration key={water.ration?.until ?? "none"} water={water} settled={settled} />
    </Section>
    <Section title="From the tap to the drain" folds>
      <BalanceDrawing balances={water.balances} />
    </Section>
    <Section title="What it is used for" folds>
      <Uses water={water} />
      <Habits water={water} />
    </Section>
    <Section title="A person a day" folds>
      <HistoryDrawing water={water} />
    </Section>
  </Two>
);

/** Water and waste: how long it lasts, where it goes, what to change so that it reaches a day. */
export const WaterView = () => {
  useTitle("Water");
  const answer = useQuery(get(useRig(), "/water"));
  if (answer.isPending) return <Waiting what="the water" why={answer.failureReason} />;
  if (answer.isError && !answer.data) return <Refused error={answer.error} again={() => void answer.refetch()} />;
  const water = answer.data;
  return (
    <Box maxW="76rem" mx="auto">
      <ViewHead title={water.headline}>
        {water.drained ?? water.detail} {water.today} {water.binding}
      </ViewHead>
      {water.known && <Known water={water} settled={isSettled(answer)} />}
      <Two>
        <Section title="The toilet and the rest">
          <Waste water={water} />
        </Section>
        <Section title="Jugs and filling" folds>
          <Jugs water={water} />
        </Section>
        <Section title="What is due" folds>
          <Care water={water} />
          <Gear />
        </Section>
      </Two>
      <Box color="soft" fontSize="sm">
        {water.cautions.join(" ")}
      </Box>
    </Box>
  );
};
