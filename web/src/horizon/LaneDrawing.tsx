import { Upright, Caption } from "../charts/Axis";
import { Band } from "../charts/Band";
import { Lane as Frame } from "../charts/Lane";
import { Line, LodeLine, Reach } from "../charts/Line";
import { EventMark, ReadingMark, type Way } from "../charts/Mark";
import { levelScale, time, type Up, within } from "../charts/scales";
import { type Lane, LANE_HEIGHT, LANE_PAD, type Strip } from "./strip";

interface Drawn {
  lane: Lane;
  strip: Strip;
  y: Up;
  /** What may come if the plan is followed: it jumps where the store is served. */
  planned?: Lane["fan"];
}

/** What is known of the past, tight after a fill and wider with every day; then what may come. */
const Levels = ({ lane, strip, y, planned }: Drawn) => {
  const { x, from, to } = strip;
  const [past, fan] = [within(lane.past, from, to), within(planned ?? lane.fan, from, to)];
  const [line, wash] = [`hue.${lane.hue}.line`, `hue.${lane.hue}.wash`];
  return (
    <>
      <Band points={past} x={x} y={y} low={(at) => at.low} high={(at) => at.high} fill={wash} part="past-band" />
      <Line points={past} x={x} y={y} level={(at) => at.level} stroke={line} />
      <Band points={fan} x={x} y={y} low={(at) => at.p10} high={(at) => at.p90} fill={wash} opacity={0.75} part="fan" />
      <Line points={fan} x={x} y={y} level={(at) => at.p50} stroke={line} dotted />
      {lane.ration.length > 0 && (
        <Line points={within(lane.ration, from, to)} x={x} y={y} level={(at) => at.level} stroke="ink" part="ration" />
      )}
    </>
  );
};

const WAYS: Record<string, Way> = { fill: "in", swap: "in", empty: "out" };

const Logged = ({ lane, strip, y }: Drawn) => (
  <>
    {lane.readings
      .filter((reading) => time(reading.at) >= strip.from)
      .map((reading) => (
        <ReadingMark
          key={reading.id}
          x={strip.x(reading.at)}
          top={y(reading.high)}
          bottom={y(reading.low)}
          doubtful={reading.doubtful}
          words={reading.words}
        />
      ))}
    {lane.events
      .filter((event) => time(event.at) >= strip.from)
      .map((event) => (
        <EventMark key={event.id} x={strip.x(event.at)} way={WAYS[event.effect] ?? "other"} words={event.words} />
      ))}
  </>
);

/** The line that the store is heading for, and when it may be there. */
const Ahead = ({ lane, strip, y }: Drawn) => {
  const level = y(lane.line);
  const own = lane.own_line === null ? null : y(lane.own_line);
  const middle = lane.p50_at;
  const late = lane.p90_at && time(lane.p90_at) < strip.to ? strip.x(lane.p90_at) : strip.width;
  return (
    <>
      <LodeLine y={level} width={strip.width} />
      {own !== null && <LodeLine y={own} width={strip.width} own />}
      {middle && time(middle) <= strip.to && (
        <Reach
          from={strip.x(lane.p10_at ?? middle)}
          to={late}
          middle={strip.x(middle)}
          y={level}
          stroke={`hue.${lane.hue}.line`}
        />
      )}
    </>
  );
};

/** One lane: the past, the fan, readings, events and the lode line on the strip's days. */
export const LaneDrawing = ({ lane, strip, planned }: { lane: Lane; strip: Strip; planned?: Lane["fan"] }) => {
  const y = levelScale(lane.capacity, LANE_HEIGHT - LANE_PAD, LANE_PAD);
  const drawn = { lane, strip, y, planned };
  return (
    <Frame words={`${lane.name}: ${lane.words}`} width={strip.width} height={LANE_HEIGHT}>
      {strip.days.map((day) => (
        <Upright key={day.date} x={strip.x(day.starts_at)} top={0} bottom={LANE_HEIGHT} />
      ))}
      {lane.known ? (
        <>
          <Levels {...drawn} />
          <Ahead {...drawn} />
          <Logged {...drawn} />
        </>
      ) : (
        <Caption x={8} y={LANE_HEIGHT / 2 + 4} size="13px">
          {lane.drained ?? "Not known yet: take a reading in the Round"}
        </Caption>
      )}
    </Frame>
  );
};
