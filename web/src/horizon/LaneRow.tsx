import { Box, chakra, Grid } from "@chakra-ui/react";
import { useState } from "react";

import { LaneDrawing } from "./LaneDrawing";
import { Marks } from "./Marks";
import type { Lane, Strip } from "./strip";

const Head = chakra("button", {
  base: {
    textAlign: "left",
    cursor: "pointer",
    py: "1.5",
    pr: "3",
    lineHeight: "1.25",
    width: "100%",
    minH: { base: "11", md: "0" },
    _hover: { bg: "sunken" },
  },
});

/** The figures behind a lane, and why it looks as it does. */
const Facts = ({ lane }: { lane: Lane }) => (
  <Box position="relative" zIndex="1" bg="sunken" borderRadius="md" mb="2" pb="3">
    <Grid as="dl" templateColumns="minmax(7rem, auto) 1fr" columnGap="4" rowGap="1" pt="3" px="3" fontSize="sm">
      {lane.facts.map((fact) => (
        <Box key={fact.name} display="contents">
          <Box as="dt" color="soft">
            {fact.name}
          </Box>
          <Box as="dd">{fact.value}</Box>
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

/** A store's lane: its head says level and outlook, one tap shows the figures. */
export const LaneRow = ({
  lane,
  strip,
  headWidth,
  planned,
  rove,
  active = true,
}: {
  lane: Lane;
  strip: Strip;
  headWidth: number;
  planned?: Lane["fan"];
  /** Its place among the lanes, which are one stop of the Tab key. */
  rove?: object;
  active?: boolean;
}) => {
  const [open, setOpen] = useState(false);
  return (
    <Box data-lane={lane.id} borderTopWidth="1px" borderColor="rule">
      <Box display={{ base: "block", md: "flex" }} alignItems="stretch">
        <Box width={{ base: "100%", md: `${headWidth}px` }} flexShrink={0} position="relative" zIndex="1" bg="page">
          <Head type="button" {...rove} aria-expanded={open} onClick={() => setOpen(!open)}>
            <Box
              as="span"
              display={{ base: "inline", md: "block" }}
              fontWeight="600"
              mr="2"
              color={lane.first ? "first" : "ink"}
            >
              {lane.name}
              {lane.first && ` ${lane.first}`}
            </Box>{" "}
            <Box as="span" display={{ base: "inline", md: "block" }} fontSize="sm" color="soft">
              {lane.level ? (
                <>
                  <Box as="span" color="ink" fontWeight="600">
                    {lane.level}
                  </Box>{" "}
                  {lane.span}
                  {lane.left && (
                    <Box as="span" color="ink" display={{ base: "inline", md: "block" }} data-part="left">
                      {" "}
                      <Box as="span" display={{ base: "inline", md: "none" }}>
                        ·{" "}
                      </Box>
                      {planned && lane.p50_at ? `without a stop: ${lane.left}` : lane.left}
                    </Box>
                  )}
                </>
              ) : (
                "not known yet"
              )}
            </Box>
          </Head>
        </Box>
        <Marks lane={lane} strip={strip} active={active}>
          <LaneDrawing lane={lane} strip={strip} planned={planned} />
        </Marks>
      </Box>
      {open && <Facts lane={lane} />}
    </Box>
  );
};
