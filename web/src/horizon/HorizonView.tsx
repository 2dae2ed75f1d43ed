import { Box, Grid, Heading } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link as RouterLink } from "react-router";

import { client, type Schemas, take } from "../api/client";
import { horizonQuery } from "../api/queries";
import { useRig } from "../app/rig";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { DayEditor } from "./DayEditor";
import { StripView } from "./StripView";

/** One touch logs what was forgotten, at the time by which it must have happened. */
const Settle = ({ doubt }: { doubt: Schemas["DoubtOut"] }) => {
  const rig = useRig();
  const queries = useQueryClient();
  const log = useMutation({
    mutationFn: () => {
      const body = { type: doubt.settle ?? "", store: doubt.store, at: doubt.settle_at, full: doubt.settle === "fill" };
      return take(client.POST("/api/rigs/{rig_id}/events", { params: { path: { rig_id: String(rig) } }, body }));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["rig", rig] }),
  });
  return (
    <>
      <Plain size="sm" mr="2" disabled={log.isPending} onClick={() => log.mutate()}>
        {doubt.settle === "fill" ? "Yes, filled to the brim" : "Yes, emptied"}
      </Plain>
      <Problem error={log.error} />
    </>
  );
};

const Doubts = ({ doubts }: { doubts: Schemas["DoubtOut"][] }) =>
  doubts.length === 0 ? null : (
    <Box as="section" aria-label="What hardly fits">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        What hardly fits
      </Heading>
      {doubts.map((doubt) => (
        <Box key={`${doubt.store}${doubt.at}`} mb="2" pl="3" borderLeftWidth="3px" borderColor="warn">
          {doubt.words} {doubt.settle && <Settle doubt={doubt} />}
          <RouterLink to={`/log?day=${doubt.at.slice(0, 10)}`}>
            <Box as="span" textDecoration="underline">
              Open that day
            </Box>
          </RouterLink>
        </Box>
      ))}
    </Box>
  );

const Stop = ({ needs }: { needs: Schemas["NeedOut"][] }) =>
  needs.length === 0 ? null : (
    <Box as="section" aria-label="The next stop">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        The next stop would have to
      </Heading>
      <Box as="ul" listStyleType="none">
        {needs.map((need) => (
          <Box as="li" key={need.store} mb="1">
            <Box as="span" fontWeight={need.due ? 700 : 500}>
              {need.name}
            </Box>
            : {need.words}
            {need.due && ", due"}
          </Box>
        ))}
      </Box>
      <Box color="soft" fontSize="sm" mt="2">
        Empty waste only where it is allowed. Drinking water through its own clean hose, after the waste is done.
      </Box>
    </Box>
  );

export const HorizonView = () => {
  const rig = useRig();
  const horizon = useQuery(horizonQuery(rig));
  const [openDate, setOpenDate] = useState<string | null>(null);
  if (horizon.isPending) return <Waiting what="the Horizon" />;
  if (horizon.isError && !horizon.data) return <Refused error={horizon.error} again={() => void horizon.refetch()} />;
  const found = horizon.data;
  return (
    <Box>
      <Box mb={{ base: "3", md: "4" }} aria-live="polite">
        <Heading
          as="h1"
          fontFamily="heading"
          fontSize={{ base: "2xl", md: "3xl" }}
          lineHeight="1.2"
          fontWeight="600"
          data-part="headline"
        >
          {found.headline}
        </Heading>
        <Box fontSize={{ base: "md", md: "lg" }} color="soft" maxW="70ch">
          {found.detail}
        </Box>
      </Box>
      <StripView horizon={found} openDay={(day) => setOpenDate(day.date)} />
      <Grid templateColumns={{ base: "1fr", lg: "1fr 1fr" }} gap="6" mt="6">
        <Doubts doubts={found.doubts} />
        <Stop needs={found.stop} />
      </Grid>
      <Box color="soft" fontSize="sm" mt="6">
        Lodeline estimates; the person decides.
      </Box>
      <DayEditor
        day={found.days.find((day) => day.date === openDate) ?? null}
        tempUnit={found.temp_unit}
        close={() => setOpenDate(null)}
      />
    </Box>
  );
};
