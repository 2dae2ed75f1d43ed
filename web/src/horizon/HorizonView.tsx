import { Box, Grid, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { Link as RouterLink, useNavigate } from "react-router";

import type { Schemas } from "../api/client";
import { useSeen } from "../api/mutations";
import { horizonQuery } from "../api/queries";
import { useRig } from "../api/rig";
import { useAdd } from "../outbox/writes";
import { AsOf } from "../parts/AsOf";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";
import { Legend } from "./Legend";
import { StripView } from "./StripView";

const DayEditor = lazy(async () => ({ default: (await import("./DayEditor")).DayEditor }));

/** One touch logs what was forgotten, at the time by which it must have happened. */
const Settle = ({ store, settle }: { store: string; settle: Schemas["SettleOut"] }) => {
  const log = useAdd(useRig());
  const { type, full, on, time } = settle;
  return (
    <>
      <Plain
        size="sm"
        mr="2"
        disabled={log.isPending}
        onClick={() => log.mutate({ entry: { event: { type, store, full }, on, time }, words: settle.label })}
      >
        {settle.label}
      </Plain>
      <Problem error={log.error} />
    </>
  );
};

const Doubts = ({ doubts }: { doubts: Schemas["DoubtOut"][] }) =>
  doubts.length === 0 ? null : (
    <Box as="section" aria-label="Entries to check">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        Entries to check
      </Heading>
      {doubts.map((doubt) => (
        <Box key={doubt.words} mb="2" pl="3" borderLeftWidth="3px" borderColor="warn">
          {doubt.words} {doubt.settle && <Settle store={doubt.store} settle={doubt.settle} />}
          <RouterLink to={`/log?day=${doubt.date}`}>
            <Box as="span" textDecoration="underline">
              Open that day
            </Box>
          </RouterLink>
        </Box>
      ))}
    </Box>
  );

const Stop = ({ needs, cautions }: { needs: Schemas["NeedOut"][]; cautions: string[] }) =>
  needs.length === 0 ? null : (
    <Box as="section" aria-label="At your next stop">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        At your next stop
      </Heading>
      <Box as="ul" listStyleType="none">
        {needs.map((need) => (
          <Box as="li" key={need.store} mb="1">
            <Box as="span" fontWeight={need.due ? 700 : 500}>
              {need.name}
            </Box>
            : {need.words}
          </Box>
        ))}
      </Box>
      <Box color="soft" fontSize="sm" mt="2">
        {cautions.join(" ")}
      </Box>
    </Box>
  );

/** Says that this forecast was seen, once it is on screen. */
const useSaidSeen = (rig: number, revision: number | undefined, at: string | undefined) => {
  const { mutate } = useSeen(rig);
  useEffect(() => {
    if (revision !== undefined) mutate(revision);
  }, [mutate, revision, at]);
};

export const HorizonView = () => {
  useTitle("Horizon");
  const rig = useRig();
  const horizon = useQuery(horizonQuery(rig));
  const navigate = useNavigate();
  const [openDate, setOpenDate] = useState<string | null>(null);
  useSaidSeen(rig, horizon.data?.revision, horizon.data?.now.at);
  if (horizon.isPending) return <Waiting what="the Horizon" why={horizon.failureReason} />;
  if (horizon.isError && !horizon.data) return <Refused error={horizon.error} again={() => void horizon.refetch()} />;
  const strip = horizon.data;
  const day = strip.days.find((each) => each.date === openDate);
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
          {strip.headline}
        </Heading>
        <Box fontSize={{ base: "md", md: "lg" }} color="soft" maxW="70ch">
          {strip.detail}
        </Box>
      </Box>
      <AsOf at={strip.now} fetched={horizon.dataUpdatedAt} forecast />
      <StripView
        horizon={strip}
        openDay={(each) => (each.coming ? setOpenDate(each.date) : void navigate(`/log?day=${each.date}`))}
      />
      <Legend />
      <Grid templateColumns={{ base: "1fr", lg: "1fr 1fr" }} gap="6" mt="6">
        <Doubts doubts={strip.doubts} />
        <Stop needs={strip.stop} cautions={strip.cautions} />
      </Grid>
      <Box color="soft" fontSize="sm" mt="6">
        Each lane has a lode line: the level at which its store sends you away. Lodeline estimates; the person decides.
      </Box>
      {day && (
        <Suspense fallback={null}>
          <DayEditor
            key={day.date}
            day={day}
            tempUnit={strip.temp_unit}
            saw={strip.revision}
            close={() => setOpenDate(null)}
          />
        </Suspense>
      )}
    </Box>
  );
};
