import { Box, Flex } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { acceptLoads } from "../api/queries";
import { useRig } from "../app/rig";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { Sheet } from "../parts/Sheet";
import { type Energy, wh } from "./scales";

/** A load's day as two thin lengths, by day and at night, on one scale. */
const Lengths = ({ day, night, most }: { day: number; night: number; most: number }) => (
  <Flex width="6rem" height="10px" aria-hidden>
    <Box width={`${(100 * day) / most}%`} bg="store.battery.line" />
    <Box width={`${(100 * night) / most}%`} bg="edge" />
  </Flex>
);

/** The list of loads against what the log shows the rig to draw. */
export const Audit = ({ energy, bank }: { energy: Energy; bank: string | null }) => {
  const rig = useRig();
  const queries = useQueryClient();
  const accept = useMutation({
    mutationFn: () => acceptLoads(rig, bank),
    onSuccess: () => queries.invalidateQueries(),
  });
  const audit = energy.audit;
  if (!audit) return null;
  const most = Math.max(...audit.lines.map((line) => line.day_wh + line.night_wh), 1);
  const ordered = [...audit.lines].sort((a, b) => b.day_wh + b.night_wh - a.day_wh - a.night_wh);
  return (
    <Box>
      {ordered.length > 0 ? (
        <Sheet
          heads={["Load", "By day", "At night", "A day", ""]}
          rows={ordered.map((line) => [
            line.name,
            wh(line.day_wh),
            wh(line.night_wh),
            wh(line.day_wh + line.night_wh),
            <Lengths key="lengths" day={line.day_wh} night={line.night_wh} most={most} />,
          ])}
        />
      ) : (
        <Box color="soft">No loads are listed; what such a crew draws as a rule is assumed.</Box>
      )}
      <Box mt="3">{audit.words}</Box>
      {audit.differs && (
        <Plain mt="2" disabled={accept.isPending} onClick={() => accept.mutate()}>
          Accept {wh(audit.learned.p50)} a day as the list
        </Plain>
      )}
      <Problem error={accept.error} />
    </Box>
  );
};
