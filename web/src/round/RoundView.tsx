import { Box, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import { useLogging } from "../api/logging";
import { roundQuery } from "../api/queries";
import { useRig } from "../api/rig";
import { DayFactsForm, type Field } from "../forms/DayFactsForm";
import { Refused, Waiting } from "../parts/Notice";
import { dateWords } from "../parts/words";
import { Acts } from "./Acts";
import { Entries } from "./Entries";
import { ReadingField } from "./ReadingField";

const FIELDS: Field[] = ["sky", "status", "temp_min", "temp_max", "crew_aboard", "solar_wh", "note"];

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb="8">
    <Heading as="h2" size="lg" fontFamily="heading" mb="3">
      {title}
    </Heading>
    {children}
  </Box>
);

export const RoundView = () => {
  const rig = useRig();
  const round = useQuery(roundQuery(rig));
  const log = useLogging(rig);
  if (round.isPending) return <Waiting what="the Round" />;
  if (round.isError && !round.data) return <Refused error={round.error} again={() => void round.refetch()} />;
  const evening = round.data;
  const date = evening.day.date;
  return (
    <Box maxW="60rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }} mb="4">
        The round, {dateWords(date, true)}
      </Heading>
      <Part title="What the gauges show">
        <Box as="ol" listStyleType="none" borderTopWidth="1px" borderColor="rule">
          {evening.stores.map((store) => (
            <ReadingField key={store.id} rig={rig} store={store} log={log} />
          ))}
        </Box>
      </Part>
      <Part title="What was done">
        <Acts rig={rig} acts={evening.acts} log={log} />
      </Part>
      <Part title="Sky and day">
        <DayFactsForm
          key={date}
          facts={evening.day}
          fields={evening.has_meter ? [...FIELDS, "water"] : FIELDS}
          units={{ temp: evening.temp_unit, water: evening.water_unit }}
          labels={{ crew_aboard: `Sleeping aboard (usually ${evening.crew})`, solar_wh: "Solar yield so far" }}
          keep={(facts) => log({ rig, date, facts })}
        />
      </Part>
      <Part title="Logged today">
        <Entries rig={rig} entries={evening.entries} />
      </Part>
    </Box>
  );
};
