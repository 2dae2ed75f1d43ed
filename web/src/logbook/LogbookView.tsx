import { Box, Flex, Heading, Input } from "@chakra-ui/react";
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { useSearchParams } from "react-router";

import type { Schemas } from "../api/client";
import { dayQuery, logQuery } from "../api/queries";
import { useRig, useRole } from "../api/rig";
import { Labelled } from "../parts/Labelled";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";
import { dateWords } from "../parts/words";
import { DayPage } from "./DayPage";
import { ImportPanel } from "./ImportPanel";

type Log = Schemas["LogOut"];

const Transfer = ({ rig }: { rig: number }) => {
  const queries = useQueryClient();
  const { owns } = useRole();
  const [open, setOpen] = useState(false);
  return (
    <Box mb="5">
      <Flex gap="2" wrap="wrap">
        <Plain asChild>
          <a href={`/api/rigs/${rig}/export`} download>
            Export the logbook file
          </a>
        </Plain>
        {owns && (
          <Plain aria-expanded={open} onClick={() => setOpen(!open)}>
            Import a file over this rig
          </Plain>
        )}
      </Flex>
      {open && (
        <Box mt="3">
          <ImportPanel rig={rig} done={() => void queries.invalidateQueries()} />
        </Box>
      )}
    </Box>
  );
};

/** Any day that is over can be opened and filled, whether or not something was logged on it. */
const GoTo = ({ day, go }: { day: string | null; go: (day: string | null) => void }) => (
  <Flex gap="3" align="end" mb="4" wrap="wrap">
    <Box width="12rem">
      <Labelled label="Open a day">
        <Input
          type="date"
          bg="raised"
          borderColor="edge"
          value={day ?? ""}
          onChange={(event) => event.target.value && go(event.target.value)}
        />
      </Labelled>
    </Box>
    {day && <Plain onClick={() => go(null)}>Back to the latest days</Plain>}
  </Flex>
);

const Days = ({ children }: { children: ReactNode }) => (
  <Box as="ol" listStyleType="none" borderBottomWidth="1px" borderColor="rule">
    {children}
  </Box>
);

const unitsOf = (log: Log) => ({ temp: log.temp_unit, water: log.water_unit });

const OneDay = ({ rig, on, writes }: { rig: number; on: string; writes: boolean }) => {
  const log = useQuery(dayQuery(rig, on));
  if (log.isPending) return <Waiting what={dateWords(on)} why={log.failureReason} />;
  if (!log.data) return <Problem error={log.error} />;
  const day = log.data.days.find((each) => each.date === on);
  if (!day) return <Box>{dateWords(on, true)} is yet to come. Coming days are planned on the Horizon.</Box>;
  return (
    <Days>
      <DayPage rig={rig} day={day} saw={log.data.revision} units={unitsOf(log.data)} writes={writes} startOpen />
    </Days>
  );
};

const LatestDays = ({ rig, writes }: { rig: number; writes: boolean }) => {
  const log = useInfiniteQuery(logQuery(rig));
  if (log.isPending) return <Waiting what="the Logbook" why={log.failureReason} />;
  if (log.isError && !log.data) return <Refused error={log.error} again={() => void log.refetch()} />;
  const pages = log.data.pages;
  if (pages.every((page) => page.days.length === 0) && !log.hasNextPage)
    return <Box>Nothing is logged yet. The Round is where days begin; an earlier day is opened above.</Box>;
  return (
    <>
      <Days>
        {pages.flatMap((page, at) =>
          page.days.map((day, index) => (
            <DayPage
              key={day.date}
              rig={rig}
              day={day}
              saw={page.revision}
              units={unitsOf(page)}
              writes={writes}
              startOpen={at + index === 0}
            />
          )),
        )}
      </Days>
      {log.hasNextPage && (
        <Plain mt="4" disabled={log.isFetchingNextPage} onClick={() => void log.fetchNextPage()}>
          {log.isFetchingNextPage ? "Loading ..." : "Older days"}
        </Plain>
      )}
    </>
  );
};

export const LogbookView = () => {
  const rig = useRig();
  const { writes } = useRole();
  const [search, setSearch] = useSearchParams();
  const wanted = /^\d{4}-\d\d-\d\d$/.exec(search.get("day") ?? "")?.[0] ?? null;
  useTitle("Logbook");
  return (
    <Box maxW="76rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }} mb="1">
        Logbook
      </Heading>
      <Box color="soft" mb="4">
        A correction keeps what stood before.
      </Box>
      <Transfer rig={rig} />
      <GoTo day={wanted} go={(day) => setSearch(day === null ? {} : { day })} />
      {wanted === null ? (
        <LatestDays rig={rig} writes={writes} />
      ) : (
        <OneDay key={wanted} rig={rig} on={wanted} writes={writes} />
      )}
    </Box>
  );
};
