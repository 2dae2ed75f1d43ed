import { Box, chakra, Grid } from "@chakra-ui/react";
import { useState } from "react";

import { amount, whenWords } from "../parts/words";
import { LaneDrawing } from "./LaneDrawing";
import type { Lane, Strip } from "./strip";

const Head = chakra("button", {
  base: {
    textAlign: "left",
    cursor: "pointer",
    py: "1.5",
    pr: "3",
    lineHeight: "1.25",
    width: "100%",
    _hover: { bg: "sunken" },
  },
});

const Facts = ({ lane }: { lane: Lane }) => {
  const flow = lane.sense === "drains" ? "Expected use" : "Expected inflow";
  const rows: (readonly [string, string])[] = [];
  if (lane.level !== null && lane.level_low !== null && lane.level_high !== null)
    rows.push([
      "Level",
      `${amount(lane.level, lane.unit)}, 8 in 10 from ${amount(lane.level_low, lane.unit)} to ${amount(lane.level_high, lane.unit)}`,
    ]);
  rows.push(["Lode line", `${amount(lane.line, lane.unit)} of ${amount(lane.capacity, lane.unit)}`]);
  if (lane.rate_per_day !== null)
    rows.push([
      flow,
      `${amount(lane.rate_per_day, lane.unit)} a day net${lane.assumed ? ", assumed from crew and kind until more days are logged" : ", from the log"}`,
    ]);
  if (lane.p10_at)
    rows.push([
      "Line reached",
      `1 in 10 by ${whenWords(lane.p10_at)}; ${lane.p50_at ? `as likely as not by ${whenWords(lane.p50_at)}` : "less likely than not on this strip"}; ${lane.p90_at ? `9 in 10 by ${whenWords(lane.p90_at)}` : "perhaps later than this strip"}`,
    ]);
  rows.push(["First to bind", `${Math.round(lane.p_first * 100)} in 100`]);
  if (lane.reserve) rows.push(["Reserve, not counted", amount(lane.reserve, lane.unit)]);
  return (
    <Box position="relative" zIndex="1" bg="sunken" borderRadius="md" mb="2" pb="3">
      <Grid as="dl" templateColumns="minmax(7rem, auto) 1fr" columnGap="4" rowGap="1" pt="3" px="3" fontSize="sm">
        {rows.map(([name, value]) => (
          <Box key={name} display="contents">
            <Box as="dt" color="soft">
              {name}
            </Box>
            <Box as="dd">{value}</Box>
          </Box>
        ))}
      </Grid>
      {lane.why.map((reason) => (
        <Box key={reason} px="3" pt="1.5" fontSize="sm">
          {reason}
        </Box>
      ))}
    </Box>
  );
};

/** A store's lane: its head says level and outlook, one tap shows the figures. */
export const LaneRow = ({
  lane,
  strip,
  headWidth,
  binds,
}: {
  lane: Lane;
  strip: Strip;
  headWidth: number;
  binds: boolean;
}) => {
  const [open, setOpen] = useState(false);
  return (
    <Box data-lane={lane.id} borderTopWidth="1px" borderColor="rule">
      <Box display={{ base: "block", md: "flex" }} alignItems="stretch">
        <Box width={{ base: "100%", md: `${headWidth}px` }} flexShrink={0} position="relative" zIndex="1" bg="page">
          <Head type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
            <Box
              as="span"
              display={{ base: "inline", md: "block" }}
              fontWeight="600"
              mr="2"
              color={binds ? "bind" : "ink"}
            >
              {lane.name}
              {binds && " binds"}
            </Box>{" "}
            <Box as="span" display={{ base: "inline", md: "block" }} fontSize="sm" color="soft">
              {lane.known && lane.level !== null ? (
                <>
                  <Box as="span" color="ink" fontWeight="600">
                    {amount(lane.level, lane.unit)}
                  </Box>{" "}
                  {amount(lane.level_low ?? 0, "").trim()} to {amount(lane.level_high ?? 0, lane.unit)}
                </>
              ) : (
                "not known yet"
              )}
            </Box>
          </Head>
        </Box>
        <LaneDrawing lane={lane} strip={strip} />
      </Box>
      {open && <Facts lane={lane} />}
    </Box>
  );
};
