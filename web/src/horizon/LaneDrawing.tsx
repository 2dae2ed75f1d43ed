import { chakra } from "@chakra-ui/react";

import {
  fanBand,
  fanLine,
  type Lane,
  LANE_HEIGHT,
  laneScale,
  pastBand,
  pastLine,
  type Strip,
  time,
  within,
} from "./strip";

const Path = chakra("path");
const Line = chakra("line");
const Text = chakra("text");

interface Drawn {
  lane: Lane;
  strip: Strip;
}

/** What is known of the past: tight after a fill, wider with every day. */
const Past = ({ lane, strip, y }: Drawn & { y: (level: number) => number }) => {
  const points = within(lane.past, strip);
  return (
    <>
      <Path d={pastBand(points, strip.x, y)} fill={`store.${lane.kind}.wash`} data-part="past-band" />
      <Path
        d={pastLine(points, strip.x, y)}
        fill="none"
        stroke={`store.${lane.kind}.line`}
        strokeWidth="2"
        strokeLinejoin="round"
      />
    </>
  );
};

const Fan = ({ lane, strip, y }: Drawn & { y: (level: number) => number }) => {
  const points = within(lane.fan, strip);
  return (
    <>
      <Path d={fanBand(points, strip.x, y)} fill={`store.${lane.kind}.wash`} opacity="0.75" data-part="fan" />
      <Path
        d={fanLine(points, strip.x, y)}
        fill="none"
        stroke={`store.${lane.kind}.line`}
        strokeWidth="1.6"
        strokeDasharray="1 4"
        strokeLinecap="round"
      />
    </>
  );
};

/** Readings as they were taken: a bracket over what they speak for; a doubtful one is open and crossed. */
const Readings = ({ lane, strip, y }: Drawn & { y: (level: number) => number }) => (
  <>
    {lane.readings
      .filter((reading) => time(reading.at) >= strip.from)
      .map((reading) => {
        const x = strip.x(reading.at);
        const [top, bottom] = [y(reading.high), y(reading.low)];
        const stem = `M${x - 3},${top}h6M${x},${top}V${bottom}M${x - 3},${bottom}h6`;
        const cross = `M${x - 5},${(top + bottom) / 2 - 5}l10,10m0,-10l-10,10`;
        return (
          <Path
            key={reading.id}
            d={reading.doubtful ? cross : stem}
            fill="none"
            stroke={reading.doubtful ? "warn" : "ink"}
            strokeWidth={reading.doubtful ? 2 : 1}
            opacity={reading.doubtful ? 1 : 0.55}
            data-part={reading.doubtful ? "doubtful" : "reading"}
          >
            <title>{reading.words}</title>
          </Path>
        );
      })}
  </>
);

const SHAPES: Record<string, (x: number) => string> = {
  fill: (x) => `M${x},-1l4,6h-8z`,
  swap: (x) => `M${x},-1l4,6h-8z`,
  dump: (x) => `M${x},5l4,-6h-8z`,
};

/** Events stand on the upper edge: a wedge up for what came in, a wedge down for what went out, a bar for the rest. */
const Events = ({ lane, strip }: Drawn) => (
  <>
    {lane.events
      .filter((event) => time(event.at) >= strip.from)
      .map((event) => (
        <Path
          key={event.id}
          d={(SHAPES[event.type] ?? ((x: number) => `M${x - 1.5},-1h3v6h-3z`))(strip.x(event.at))}
          transform="translate(0 2)"
          fill="ink"
          data-part="event"
        >
          <title>{event.words}</title>
        </Path>
      ))}
  </>
);

/** The line that the store is heading for. */
const LodeLine = ({ lane, strip, y }: Drawn & { y: (level: number) => number }) => (
  <>
    <Line
      x1={0}
      x2={strip.width}
      y1={y(lane.line)}
      y2={y(lane.line)}
      stroke="lode"
      strokeWidth="1"
      strokeDasharray="7 3"
      opacity="0.75"
      data-part="line"
    />
    {lane.p50_at && time(lane.p50_at) <= strip.to && (
      <>
        <Line
          x1={strip.x(lane.p10_at ?? lane.p50_at)}
          x2={lane.p90_at && time(lane.p90_at) < strip.to ? strip.x(lane.p90_at) : strip.width}
          y1={y(lane.line)}
          y2={y(lane.line)}
          stroke={`store.${lane.kind}.line`}
          strokeWidth="4"
          data-part="reach"
        />
        <Path
          d={`M${strip.x(lane.p50_at)},${y(lane.line) - 5}v10`}
          stroke={`store.${lane.kind}.line`}
          strokeWidth="3"
        />
      </>
    )}
  </>
);

/** One lane: the past, the fan, readings, events and the lode line on the strip's days. */
export const LaneDrawing = ({ lane, strip }: Drawn) => {
  const y = laneScale(lane.capacity);
  return (
    <chakra.svg
      role="img"
      aria-label={`${lane.name}: ${lane.words}`}
      width={`${strip.width}px`}
      height={`${LANE_HEIGHT}px`}
      viewBox={`0 0 ${strip.width} ${LANE_HEIGHT}`}
      display="block"
      overflow="visible"
    >
      {strip.days.map((day) => (
        <Line
          key={day.date}
          x1={strip.x(day.starts_at)}
          x2={strip.x(day.starts_at)}
          y1={0}
          y2={LANE_HEIGHT}
          stroke="rule"
          strokeWidth="1"
          opacity="0.6"
        />
      ))}
      {lane.known ? (
        <>
          <Past lane={lane} strip={strip} y={y} />
          <Fan lane={lane} strip={strip} y={y} />
          <LodeLine lane={lane} strip={strip} y={y} />
          <Readings lane={lane} strip={strip} y={y} />
          <Events lane={lane} strip={strip} />
        </>
      ) : (
        <Text x={8} y={LANE_HEIGHT / 2 + 4} fill="soft" fontSize="13px">
          Not known yet: take a reading in the Round
        </Text>
      )}
    </chakra.svg>
  );
};
