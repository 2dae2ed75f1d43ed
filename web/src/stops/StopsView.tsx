import { Box, Grid } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";

import { get } from "../api/asked";
import { useRig, useRole } from "../api/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Section } from "../parts/Section";
import { useTitle } from "../parts/title";
import { Book } from "./Book";
import { BringIn } from "./BringIn";
import { CalendarFeed } from "./CalendarFeed";
import { PlanStory } from "./PlanStory";
import { Sketch } from "./Sketch";
import { Tickets } from "./Tickets";

export /** Where next, when to leave, what to do there: the plan, the book of places, the tickets. */
const StopsView = () => {
  useTitle("Stops");
  const rig = useRig();
  const [asked, setAsked] = useSearchParams();
  const { writes } = useRole();
  const places = useQuery(get(rig, "/places"));
  if (places.isPending) return <Waiting what="the places" why={places.failureReason} />;
  if (places.isError && !places.data) return <Refused error={places.error} again={() => void places.refetch()} />;
  const book = places.data;
  const adding = asked.has("add");
  return (
    <Box maxW="76rem" mx="auto">
      <PlanStory rig={rig} hasPlaces={book.spots.length > 0} />
      <Tickets rig={rig} />
      <Section title="Places" folds={!adding}>
        <Grid
          templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 5fr) minmax(0, 6fr)" }}
          columnGap="8"
          rowGap="4"
        >
          <Sketch book={book} add={writes ? (at) => setAsked({ add: at }) : undefined} />
          <Book rig={rig} book={book} />
        </Grid>
      </Section>
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} columnGap="10">
        <Section title="Places in and out" folds>
          <BringIn rig={rig} />
        </Section>
        <Section title="In your calendar" folds>
          <CalendarFeed rig={rig} />
        </Section>
      </Grid>
    </Box>
  );
};
