import { Box, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { get, useAsk, useTell } from "../api/asked";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** The calendar: a file, and an address that a calendar program reads by itself. */
export const CalendarFeed = ({ rig }: { rig: number }) => {
  const feed = useQuery(get(rig, "/calendar"));
  const [renew, end] = [
    useAsk(rig, "post", "/calendar", (positions: boolean) => ({ body: { positions } })),
    useTell<"delete", "/calendar", undefined>(rig, "delete", "/calendar", () => ({})),
  ];
  const address = renew.data?.path ? `${window.location.origin}${renew.data.path}` : null;
  const exists = renew.data?.exists ?? feed.data?.exists ?? false;
  const [chosen, setChosen] = useState<boolean | null>(null);
  const positions = chosen ?? feed.data?.positions ?? false;
  return (
    <Box>
      <Box color="soft" mb="3">
        Planned stops with when to leave, chores, and the day on which the first line is expected.
      </Box>
      <label>
        <input type="checkbox" checked={positions} onChange={(event) => setChosen(event.target.checked)} /> Whoever has
        the address sees the coordinates of the stops
        {exists && chosen !== null && chosen !== feed.data?.positions && " (once you make a new address)"}
      </label>
      <HStack wrap="wrap" mt="2">
        <Plain asChild>
          <a href={`/api/rigs/${rig}/calendar.ics`} download="lodeline.ics">
            Download
          </a>
        </Plain>
        <Plain disabled={renew.isPending} onClick={() => renew.mutate(positions)}>
          {exists ? "New address" : "Make an address"}
        </Plain>
        {exists && (
          <Plain
            tone="warn"
            disabled={end.isPending}
            onClick={() => end.mutate(undefined, { onSuccess: () => renew.reset() })}
          >
            End it
          </Plain>
        )}
      </HStack>
      {address && (
        <Box mt="3" data-part="feed">
          <Box as="code" wordBreak="break-all">
            {address}
          </Box>
          <Box color="soft" fontSize="sm">
            Shown once. Whoever has it can read your plan; a new address makes this one useless.
          </Box>
        </Box>
      )}
      {exists && !address && (
        <Box color="soft" fontSize="sm" mt="2">
          There is an address. It is not shown again; a new one takes its place.
        </Box>
      )}
      <Problem error={renew.error ?? end.error} />
    </Box>
  );
};
