import { Box, chakra, Flex, Grid, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { MOST_ENTRIES } from "../api/queries";
import { DayFactsForm, type Field } from "../forms/DayFactsForm";
import { factsWaiting } from "../outbox/waiting";
import { useSetDay } from "../outbox/writes";
import { useWaiting } from "../outbox/writing";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { Sheet } from "../parts/Sheet";
import { SkyMark } from "../parts/Sky";
import { counted, dateWords, momentWords } from "../parts/words";
import { AddEntry } from "./AddEntry";
import { EntryEditor } from "./EntryEditor";

type Day = Schemas["DayOut"];

const FIELDS: Field[] = [
  "sky",
  "place",
  "panels_covered",
  "status",
  "temp_min",
  "temp_max",
  "crew_aboard",
  "solar_wh",
  "load_wh",
  "water",
  "note",
];
const HEADS = ["Store", "Used or flowed in", "Filled or emptied", "Correction from readings", "At the end"];

const Sums = ({ day }: { day: Day }) => (
  <Sheet
    name="What the day used and took in"
    heads={HEADS}
    rows={day.sums.map((sum) => [
      sum.name,
      sum.used,
      sum.moved ?? "–",
      <Box key="corrected" as="span" color={sum.note ? "warn" : undefined}>
        {[sum.corrected ?? "–", sum.note].filter(Boolean).join(", ")}
      </Box>,
      sum.end,
    ])}
  />
);

const History = ({ rig, date }: { rig: number; date: string }) => {
  const history = useQuery(get(rig, "/log/{on}/history", { path: { on: date } }));
  if (history.isPending) return <Box color="soft">Loading the history ...</Box>;
  if (history.isError) return <Problem error={history.error} />;
  if (history.data.length === 0) return <Box color="soft">Nothing was changed since this day came here.</Box>;
  return (
    <Box as="ul" listStyleType="none" fontSize="sm">
      {history.data.map((change, index) => (
        <Box as="li" key={index} py="1" borderBottomWidth="1px" borderColor="rule">
          <Box as="span" color="soft">
            {momentWords(change.at)}
          </Box>{" "}
          {change.words}.
        </Box>
      ))}
    </Box>
  );
};

const Head = chakra("button", {
  base: { width: "100%", textAlign: "left", cursor: "pointer", py: "2", _hover: { bg: "sunken" } },
});

interface Props {
  rig: number;
  day: Day;
  /** The rig's revision that this is a page of. */
  saw: number;
  units: { temp: string; water: string };
  writes: boolean;
}

/** That not all of a day is shown: the day alone shows more, and the export has everything. */
const Earlier = ({ day }: { day: Day }) => {
  if (day.earlier === 0) return null;
  const words = counted(day.earlier, "earlier entry", "earlier entries");
  if (day.entries.length >= MOST_ENTRIES) return <Box color="soft">{words} of this day: see the export.</Box>;
  return (
    <Plain asChild size="sm">
      <Link to={`/log?day=${day.date}`}>Show {words}</Link>
    </Plain>
  );
};

const Open = ({ rig, day, saw, units, writes }: Props) => {
  const [history, setHistory] = useState(false);
  const change = useSetDay(rig, day.date, saw);
  const facts = { ...day.facts, ...factsWaiting(useWaiting(), rig, "day", day.date) };
  return (
    <Box pb="5" pl={{ base: "0", md: "4" }}>
      {day.doubts.map((doubt) => (
        <Box key={doubt} pl="3" mb="2" borderLeftWidth="3px" borderColor="warn">
          {doubt}
        </Box>
      ))}
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} gap="5" mb="4">
        <Sums day={day} />
        <Box>
          <Earlier day={day} />
          <Box as="ul" listStyleType="none">
            {day.entries.map((entry) => (
              <EntryEditor key={`${entry.kind}${entry.id}`} rig={rig} entry={entry} saw={saw} writes={writes} />
            ))}
          </Box>
          {writes && <AddEntry rig={rig} date={day.date} />}
        </Box>
      </Grid>
      {writes && <DayFactsForm facts={facts} fields={FIELDS} units={units} keep={(body) => change.mutateAsync(body)} />}
      <Box mt="3">
        <Plain size="sm" aria-expanded={history} onClick={() => setHistory(!history)}>
          History
        </Plain>
        {history && <History rig={rig} date={day.date} />}
      </Box>
    </Box>
  );
};

/** Of hundreds of days those that are out of sight are not laid out. */
const OFF_SCREEN = { contentVisibility: "auto", containIntrinsicBlockSize: "auto 2.6rem" };

/** One day of the ledger: closed it is a line; open it has sums, entries, facts and history. */
export const DayPage = ({ startOpen, ...page }: Props & { startOpen: boolean }) => {
  const { day } = page;
  const [open, setOpen] = useState(startOpen);
  const { sky } = day.facts;
  return (
    <Box as="li" borderTopWidth="1px" borderColor="rule" data-date={day.date} css={open ? undefined : OFF_SCREEN}>
      <Head type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
        <Flex gap="3" align="center" wrap="wrap">
          <Box fontWeight="600" minW="8rem">
            {dateWords(day.date)}
          </Box>
          <HStack minW="6rem">
            {sky && <SkyMark sky={sky} />}
            <span>{sky}</span>
          </HStack>
          <Box color="soft">{day.line}</Box>
          {day.note && (
            <Box color="warn" fontWeight="600">
              {day.note}
            </Box>
          )}
        </Flex>
      </Head>
      {open && <Open {...page} />}
    </Box>
  );
};
