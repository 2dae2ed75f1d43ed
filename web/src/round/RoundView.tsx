import { Box, chakra, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useCallback } from "react";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { type Change, DayFactsForm, type Field } from "../forms/DayFactsForm";
import { ViewHead } from "../forms/ViewHead";
import type { System } from "../notation/shown";
import { useSetDay } from "../outbox/writes";
import { useWaiting, useWrite } from "../outbox/writing";
import { AsOf } from "../parts/AsOf";
import { Refused, Waiting } from "../parts/Notice";
import { useNow } from "../parts/now";
import { useTitle } from "../parts/title";
import { dateWords } from "../parts/words";
import { Acts } from "./Acts";
import { Entries } from "./Entries";
import { eveningOf, expectedNow } from "./evening";
import { ReadingField } from "./ReadingField";

const FIRST: Field[] = ["sky", "temp_min", "temp_max"];
const FIELDS: Field[] = ["place", "status", "crew_aboard", "solar_wh", "note"];

/** What is asked of a day first, and what besides: a meter's water where there is one, snow when it is cold. */
const fieldsOf = (round: Schemas["RoundOut"]): Field[] => [...FIELDS, ...(round.has_meter ? (["water"] as const) : [])];

const firstOf = (round: Schemas["RoundOut"]): Field[] => [
  ...FIRST,
  ...(round.asks_covered ? (["panels_covered"] as const) : []),
];

const AFTER = "after-the-gauges";

const Part = ({ title, id, children }: { title: string; id?: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb={{ base: "3", md: "8" }}>
    <Heading
      as="h2"
      size={{ base: "md", md: "lg" }}
      fontFamily="heading"
      mb={{ base: "1", md: "3" }}
      id={id}
      tabIndex={id ? -1 : undefined}
      outline="none"
    >
      {title}
    </Heading>
    {children}
  </Box>
);

/**
 * The field after one of the round; from the last one the heading of what comes then, which nothing presses: whoever
 * goes on by Enter has logged what they typed and nothing else.
 */
const focusAfter = (store: string) => {
  const fields = [...document.querySelectorAll<HTMLInputElement>("[data-store] input")];
  const at = fields.findIndex((field) => field.id === `read-${store}`);
  (fields[at + 1] ?? document.getElementById(AFTER))?.focus();
};

export const RoundView = () => {
  const rig = useRig();
  const round = useQuery(get(rig, "/round"));
  useTitle("Round");
  if (round.isPending) return <Waiting what="the Round" why={round.failureReason} />;
  if (round.isError && !round.data) return <Refused error={round.error} again={() => void round.refetch()} />;
  return <Evening key={rig} rig={rig} round={round.data} fetched={round.dataUpdatedAt} />;
};

const Evening = ({ rig, round, fetched }: { rig: number; round: Schemas["RoundOut"]; fetched: number }) => {
  const log = useWrite(rig);
  const now = useNow();
  const { writes } = useRole();
  const waiting = useWaiting().filter((each) => each.rig === rig);
  const evening = eveningOf(rig, round, waiting, now);
  const set = useSetDay(rig, evening.date, round.revision);
  const next = useCallback(focusAfter, []);
  const day = {
    facts: evening.day,
    where: round.where,
    units: { temp: round.temp_unit, water: round.water_unit },
    labels: { crew_aboard: `Sleeping aboard (usually ${round.crew})`, solar_wh: "Solar yield so far" },
    keep: (facts: Change) => set.mutateAsync(facts),
  };
  return (
    <Box maxW="60rem" mx="auto">
      <ViewHead here title={`The round, ${dateWords(evening.date, true)}`} />
      <AsOf at={round.now} fetched={fetched} forecast />
      {round.agreed.length > 0 && (
        <Box mb="4" data-part="agreed">
          <Box as="span" color="soft">
            Agreed:{" "}
          </Box>
          {round.agreed.join("; ")}
        </Box>
      )}
      {round.ration && (
        <Box mb="4" data-part="ration">
          <Box fontWeight={600}>{round.ration.left}</Box>
          {round.ration.floor && <Box color="warn">{round.ration.floor}</Box>}
          <Box color="soft" fontSize="sm">
            {round.ration.allows.join("; ")}
          </Box>
        </Box>
      )}
      <Part title="What the gauges show">
        {round.drained && (
          <Box color="soft" mb="2">
            {round.drained}
          </Box>
        )}
        <Box as="ol" listStyleType="none" borderTopWidth="1px" borderColor="rule">
          {round.stores.map((store) => (
            <ReadingField
              key={store.id}
              rig={rig}
              store={store}
              units={round.units as System}
              expected={expectedNow(store, round.now.at, now)}
              waiting={evening.readings.get(store.id) ?? null}
              locked={!writes}
              log={log}
              next={() => next(store.id)}
            />
          ))}
        </Box>
      </Part>
      {writes && (
        <>
          <Part title="What was done" id={AFTER}>
            <Acts acts={round.acts} rig={rig} />
          </Part>
          <Part title="Sky and day">
            <DayFactsForm key={evening.date} {...day} fields={firstOf(round)} />
            <details>
              <chakra.summary cursor="pointer" py="1" mt="2" color="soft">
                Place, people, yield, a note
              </chakra.summary>
              <DayFactsForm key={evening.date} {...day} fields={fieldsOf(round)} />
            </details>
          </Part>
        </>
      )}
      <Part title="Logged today">
        {round.earlier && <Box color="soft">{round.earlier}</Box>}
        <Entries rig={rig} entries={evening.entries} added={evening.added} saw={round.revision} writes={writes} />
      </Part>
    </Box>
  );
};
