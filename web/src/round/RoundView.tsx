import { Box, Grid, Heading, HStack, Textarea } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";

import type { Schemas } from "../api/client";
import { roundQuery } from "../api/queries";
import { useRig } from "../app/rig";
import { Labelled, NumberEntry } from "../parts/Entry";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { SKIES, SkyMark } from "../parts/Sky";
import { dateWords } from "../parts/words";
import { Acts } from "./Acts";
import { Entries } from "./Entries";
import { useLogging } from "./logging";
import { ReadingField } from "./ReadingField";

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb="8">
    <Heading as="h2" size="lg" fontFamily="heading" mb="3">
      {title}
    </Heading>
    {children}
  </Box>
);

const STATUS = [
  ["parked", "parked"],
  ["moving", "moved today"],
  ["hookup", "on a post"],
] as const;

const DayFacts = ({ round, keep }: { round: Schemas["RoundOut"]; keep: (body: Schemas["DayIn"]) => void }) => (
  <Box display="grid" gap="3">
    <HStack wrap="wrap" role="group" aria-label="Sky today">
      {SKIES.map((sky) => (
        <Plain key={sky} aria-pressed={round.sky === sky} onClick={() => keep({ sky: round.sky === sky ? null : sky })}>
          <SkyMark sky={sky} /> {sky}
        </Plain>
      ))}
    </HStack>
    <HStack wrap="wrap" role="group" aria-label="Where the rig was">
      {STATUS.map(([status, words]) => (
        <Plain
          key={status}
          aria-pressed={round.status === status}
          onClick={() => keep({ status: round.status === status ? null : status })}
        >
          {words}
        </Plain>
      ))}
    </HStack>
    <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3">
      <NumberEntry
        label="Coldest"
        unit={round.temp_unit}
        value={round.temp_min}
        onValue={(temp_min) => keep({ temp_min })}
      />
      <NumberEntry
        label="Warmest"
        unit={round.temp_unit}
        value={round.temp_max}
        onValue={(temp_max) => keep({ temp_max })}
      />
      <NumberEntry
        label={`Sleeping aboard (usually ${round.crew})`}
        value={round.crew_aboard}
        onValue={(crew_aboard) => keep({ crew_aboard })}
      />
      <NumberEntry
        label="Solar yield so far"
        unit="Wh"
        value={round.solar_wh}
        onValue={(solar_wh) => keep({ solar_wh })}
      />
      <NumberEntry
        label="Fresh water drawn, by meter"
        unit={round.water_unit}
        value={round.water}
        onValue={(water) => keep({ water })}
      />
    </Grid>
    <Labelled label="Note">
      <Textarea
        key={round.note ?? ""}
        bg="raised"
        borderColor="edge"
        defaultValue={round.note ?? ""}
        onBlur={(event) => event.target.value !== (round.note ?? "") && keep({ note: event.target.value || null })}
      />
    </Labelled>
  </Box>
);

export const RoundView = () => {
  const rig = useRig();
  const round = useQuery(roundQuery(rig));
  const log = useLogging(rig);
  const [problem, setProblem] = useState<Error | null>(null);
  if (round.isPending) return <Waiting what="the Round" />;
  if (round.isError && !round.data) return <Refused error={round.error} again={() => void round.refetch()} />;
  const found = round.data;
  const keep = (body: Schemas["DayIn"]) => {
    setProblem(null);
    log({ kind: "day", rig, date: found.date, body }).catch((error: unknown) => setProblem(error as Error));
  };
  return (
    <Box maxW="60rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }} mb="4">
        The round, {dateWords(found.date, true)}
      </Heading>
      <Part title="What the panels say">
        <Box as="ol" listStyleType="none" borderTopWidth="1px" borderColor="rule">
          {found.stores.map((store) => (
            <ReadingField key={store.id} rig={rig} store={store} log={log} />
          ))}
        </Box>
      </Part>
      <Part title="What was done">
        <Acts rig={rig} acts={found.acts} log={log} />
      </Part>
      <Part title="Sky and day">
        <DayFacts round={found} keep={keep} />
        <Problem error={problem} />
      </Part>
      <Part title="Logged today">
        <Entries rig={rig} entries={found.entries} />
      </Part>
    </Box>
  );
};
