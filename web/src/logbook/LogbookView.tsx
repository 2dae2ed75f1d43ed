import { Box, Flex, Heading } from "@chakra-ui/react";
import { useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";

import { logQuery } from "../api/queries";
import { useMe, useRig } from "../api/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { DayPage } from "./DayPage";
import { ImportPanel } from "./ImportPanel";

const Transfer = ({ rig }: { rig: number }) => {
  const queries = useQueryClient();
  const owner = useMe().rigs.find((each) => each.id === rig)?.role === "owner";
  const [open, setOpen] = useState(false);
  return (
    <Box mb="5">
      <Flex gap="2" wrap="wrap">
        <Plain asChild>
          <a href={`/api/rigs/${rig}/export`} download>
            Export the logbook file
          </a>
        </Plain>
        {owner && (
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

export const LogbookView = () => {
  const rig = useRig();
  const [search] = useSearchParams();
  const wanted = search.get("day");
  const log = useInfiniteQuery(logQuery(rig));
  if (log.isPending) return <Waiting what="the Logbook" />;
  if (log.isError && !log.data) return <Refused error={log.error} again={() => void log.refetch()} />;
  const pages = log.data.pages;
  const days = pages.flatMap((page) => page.days);
  const units = { temp: pages[0]?.temp_unit ?? "°C", water: pages[0]?.water_unit ?? "L" };
  return (
    <Box maxW="76rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }} mb="1">
        Logbook
      </Heading>
      <Box color="soft" mb="4">
        A correction keeps what stood before.
      </Box>
      <Transfer rig={rig} />
      {days.length === 0 && !log.hasNextPage ? (
        <Box>Nothing is logged yet. The Round is where days begin.</Box>
      ) : (
        <Box as="ol" listStyleType="none" borderBottomWidth="1px" borderColor="rule">
          {days.map((day, index) => (
            <DayPage
              key={day.date}
              rig={rig}
              day={day}
              units={units}
              startOpen={wanted ? day.date === wanted : index === 0}
            />
          ))}
        </Box>
      )}
      {log.hasNextPage && (
        <Plain mt="4" disabled={log.isFetchingNextPage} onClick={() => void log.fetchNextPage()}>
          {log.isFetchingNextPage ? "Loading ..." : "Older days"}
        </Plain>
      )}
    </Box>
  );
};
