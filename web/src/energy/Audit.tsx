import { Box, Flex } from "@chakra-ui/react";

import { ofBank, useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { Sheet } from "../parts/Sheet";

/** A load's day as two thin lengths, by day and at night, on one scale. */
const Lengths = ({ day, night, most }: { day: number; night: number; most: number }) => (
  <Flex width="6rem" height="10px" aria-hidden>
    <Box width={`${(100 * day) / most}%`} bg="hue.amber.line" />
    <Box width={`${(100 * night) / most}%`} bg="edge" />
  </Flex>
);

/** The list of loads against what the log shows the rig to draw. */
export const Audit = ({ audit, bank, saw }: { audit: Schemas["AuditOut"]; bank: string | null; saw: number }) => {
  const accept = useTell(useRig(), "post", "/energy/accept-loads", (saw: number) => ({
    query: { ...ofBank(bank), saw },
  }));
  const most = Math.max(...audit.lines.map((line) => line.day_wh + line.night_wh), 1);
  return (
    <Box>
      {audit.lines.length > 0 ? (
        <Sheet
          name="The loads"
          heads={["Load", "By day", "At night", "A day", "By day and at night, drawn"]}
          rows={audit.lines.map((line) => [
            line.name,
            line.day,
            line.night,
            line.whole,
            <Lengths key="lengths" day={line.day_wh} night={line.night_wh} most={most} />,
          ])}
        />
      ) : (
        <Box color="soft">No loads are listed; what such a crew draws as a rule is assumed.</Box>
      )}
      <Box mt="3">{audit.words}</Box>
      {audit.accept && (
        <Plain mt="2" disabled={accept.isPending} onClick={() => accept.mutate(saw)}>
          {audit.accept}
        </Plain>
      )}
      <Problem error={accept.error} />
    </Box>
  );
};
