import { Box, chakra, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { time } from "../charts/scales";
import { useRove } from "../parts/rove";
import { useWidth } from "../parts/width";
import { DayScale } from "./DayScale";
import { LaneRow } from "./LaneRow";
import { type Attempt, PlannedStops } from "./PlannedStops";
import { DAYS_HEIGHT, type HorizonDay, makeStrip, NARROW, rowOf, type Strip } from "./strip";

const HEAD_WIDTH = 204;
// the chances stand under the lines, not behind them
const STAY_HEIGHT = 32;

/** The vertical marks that run through all lanes: now, and the day that matters with its range. */
const Uprights = ({
  horizon,
  strip,
  left,
  stops,
}: {
  horizon: Schemas["HorizonOut"];
  strip: Strip;
  left: number;
  stops: Schemas["StopOut"][];
}) => {
  const now = strip.x(horizon.now.at);
  const lanesFrom = DAYS_HEIGHT + rowOf(strip).height;
  const [early, middle, late] = [horizon.first_low_at, horizon.first_at, horizon.first_high_at];
  const on = middle && time(middle) <= strip.to ? strip.x(middle) : null;
  const low = early ? strip.x(early) : null;
  const high = late && time(late) < strip.to ? strip.x(late) : strip.width;
  return (
    <chakra.svg
      position="absolute"
      top="0"
      style={{ left: `${left}px` }}
      width={`${strip.width}px`}
      height={`calc(100% - ${STAY_HEIGHT}px)`}
      pointerEvents="none"
      aria-hidden
      overflow="visible"
    >
      {low !== null && low < strip.width && (
        <chakra.rect
          x={low}
          width={Math.max(2, high - low)}
          y={lanesFrom}
          height={`calc(100% - ${lanesFrom}px)`}
          fill="firstWash"
          opacity="0.4"
        />
      )}
      {stops.map((stop) => (
        <chakra.line
          key={stop.arrive.at}
          x1={strip.x(stop.arrive.at)}
          x2={strip.x(stop.arrive.at)}
          y1={DAYS_HEIGHT + rowOf(strip).flag + 4}
          y2="100%"
          stroke="accent"
          strokeWidth="1"
          strokeDasharray="3 3"
        />
      ))}
      <chakra.line x1={now} x2={now} y1="76" y2="100%" stroke="ink" strokeWidth="1.5" />
      {on !== null && (
        <chakra.line x1={on} x2={on} y1={lanesFrom - 8} y2="100%" stroke="first" strokeWidth="3" data-part="first" />
      )}
    </chakra.svg>
  );
};

const NEARLY = 0.995;

/** A chance in per cent; a word where it would read 0 or 100. */
const chanceOf = (p: number): string => (p >= NEARLY ? "sure" : p < 1 - NEARLY ? "no" : String(Math.round(p * 100)));

const Stay = ({ strip }: { strip: Strip }) => (
  <Box position="relative" height="30px" width={`${strip.width}px`} fontSize="11px">
    {strip.days.map(
      (day) =>
        day.p_stay !== null && (
          <Box
            key={day.date}
            position="absolute"
            textAlign="center"
            pt="1.5"
            style={{ left: `${strip.x(day.starts_at)}px`, width: `${strip.x(day.ends_at) - strip.x(day.starts_at)}px` }}
          >
            {chanceOf(day.p_stay)}
          </Box>
        ),
    )}
  </Box>
);

/** The strip of days with one lane a store. */
export const StripView = ({
  horizon,
  openDay,
  plan,
  until = "",
  ask = () => undefined,
  move = () => undefined,
  attempt = () => undefined,
  tried,
}: {
  horizon: Schemas["HorizonOut"];
  openDay: (day: HorizonDay) => void;
  /** The plan of coming stops, once it is there; the lanes then go on after each. */
  plan?: Schemas["PlanOut"];
  /** The end of the stay that is asked about. */
  until?: string;
  ask?: (until: string) => void;
  move?: (stop: Schemas["StopOut"], arrive: string) => void;
  attempt?: Attempt;
  /** The lanes as they would be with the stop that is being dragged. */
  tried?: Schemas["PlanLane"][];
}) => {
  const [box, width] = useWidth();
  const lanesOf = useRove("ArrowUp", "ArrowDown");
  const wide = width >= NARROW;
  const left = wide ? HEAD_WIDTH : 0;
  // those that the dragged stop changes come before those of the plan
  const lanes = [...(tried ?? []), ...(plan?.stops.length ? plan.lanes : [])];
  const strip = width > 0 ? makeStrip(horizon, width - left) : null;
  return (
    <Box ref={box} position="relative" aria-label="Strip of days" role="group">
      {strip && (
        <>
          <Box display="flex" style={{ paddingLeft: `${left}px` }}>
            <DayScale strip={strip} open={openDay} />
          </Box>
          <Flex style={{ paddingLeft: `${left}px` }}>
            <PlannedStops
              stops={plan?.stops ?? []}
              strip={strip}
              until={until}
              move={move}
              attempt={attempt}
              ask={ask}
            />
          </Flex>
          <Uprights horizon={horizon} strip={strip} left={left} stops={plan?.stops ?? []} />
          <Box {...lanesOf.box} role="group" aria-label="Stores: go through them with the up and down keys">
            {horizon.lanes.map((lane, n) => (
              <LaneRow
                key={lane.id}
                lane={lane}
                strip={strip}
                headWidth={left}
                planned={lanes.find((each) => each.store === lane.id)?.fan}
                rove={lanesOf.rove(n)}
                active={lanesOf.at === n}
              />
            ))}
          </Box>
          <Box
            display="flex"
            flexWrap="wrap"
            minH={`${STAY_HEIGHT}px`}
            borderTopWidth="1px"
            borderColor="rule"
            fontSize="sm"
            color="soft"
          >
            {strip.days.some((day) => day.p_stay !== null) && (
              <>
                <Box width={wide ? `${left}px` : "100%"} pt="1" flexShrink={0}>
                  Chance to stay, %
                </Box>
                <Stay strip={strip} />
              </>
            )}
          </Box>
        </>
      )}
    </Box>
  );
};
