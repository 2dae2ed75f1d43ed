import { Box, chakra } from "@chakra-ui/react";

import { clock, weekday } from "../parts/words";
import { useWidth } from "../parts/width";
import { type Energy, hourBand, hourLine, hourScales, nights, percent, spanWords, time } from "./scales";

const Path = chakra("path");
const Line = chakra("line");
const Text = chakra("text");

const HEIGHT = 224;
const TOP = 40;
const BOTTOM = HEIGHT - 24;
const LEFT = 48;
const DAY_MS = 86_400_000;

export const hoursWords = (energy: Energy): string =>
  [
    energy.level ? `Now ${spanWords(energy.level)} of capacity` : null,
    energy.low ? `low ${spanWords(energy.low)} at ${clock(energy.low.at)}` : null,
    energy.high ? `high ${spanWords(energy.high)} at ${clock(energy.high.at)}` : null,
    `line at ${percent(energy.line)}`,
  ]
    .filter(Boolean)
    .join("; ");

type Scales = ReturnType<typeof hourScales>;

const NEAR_PX = 90;

const Turn = ({
  found,
  name,
  below,
  now,
  x,
  y,
}: { found: Energy["low"]; name: string; below: boolean; now: number } & Scales) => {
  if (!found) return null;
  const [at, level] = [x(found.at), y(below ? found.p10 : found.p90)];
  const end = below ? Math.min(level + 20, BOTTOM - 16) : Math.max(level - 6, TOP - 2);
  return (
    <g data-part={name}>
      <Line x1={at} x2={at} y1={y(found.p10)} y2={y(found.p90)} stroke="ink" strokeWidth="2" />
      <Text
        x={at}
        y={below ? end : end - 4}
        fontSize="12px"
        fontWeight="600"
        fill="ink"
        textAnchor={x(found.at) - now < NEAR_PX ? "start" : "middle"}
      >
        {name} {spanWords(found)}, {clock(found.at)}
      </Text>
    </g>
  );
};

const Frame = ({
  energy,
  from,
  to,
  width,
  x,
  y,
}: { energy: Energy; from: number; to: number; width: number } & Scales) => {
  const marks = width < 600 ? [0, 0.5, 1] : [0, 0.25, 0.5, 0.75, 1];
  const midnights = nights([...energy.past, ...energy.hours]).filter((at) => time(at) >= from && time(at) <= to);
  return (
    <>
      {marks.map((share) => (
        <g key={share}>
          <Line x1={0} x2={width} y1={y(share)} y2={y(share)} stroke="rule" opacity="0.6" />
          <Text x={-6} y={y(share) + 4} fontSize="11px" fill="soft" textAnchor="end">
            {percent(share)}
          </Text>
        </g>
      ))}
      {midnights.map((at) => (
        <g key={at}>
          <Line x1={x(at)} x2={x(at)} y1={TOP - 8} y2={BOTTOM} stroke="rule" />
          <Text x={x(at) + 5} y={HEIGHT - 8} fontSize="12px" fill="soft">
            {weekday(at.slice(0, 10))} {Number(at.slice(8, 10))}
          </Text>
        </g>
      ))}
      <Line
        x1={0}
        x2={width}
        y1={y(energy.line)}
        y2={y(energy.line)}
        stroke="lode"
        strokeDasharray="6 3"
        data-part="line"
      />
      <Text x={4} y={y(energy.line) - 5} fontSize="11px" fill="ink">
        line {percent(energy.line)}
      </Text>
    </>
  );
};

/** The last day and the coming two, hour by hour: the level, its range, the low and the high. */
export const HoursDrawing = ({ energy }: { energy: Energy }) => {
  const [box, full] = useWidth();
  const width = Math.max(full - LEFT - 8, 200);
  const now = time(energy.now);
  const from = now - (full < 600 ? 0.5 : 1) * DAY_MS;
  const to = now + (full < 600 ? 1.5 : 2) * DAY_MS;
  const scales = hourScales(from, to, width, TOP, BOTTOM);
  const { x, y } = scales;
  const past = energy.past.filter((hour) => time(hour.at) >= from);
  const start = energy.level ? [{ at: energy.now, ...energy.level }] : [];
  const coming = [...start, ...energy.hours.filter((hour) => time(hour.at) <= to)];
  return (
    <Box ref={box}>
      {full > 0 && (
        <chakra.svg role="img" aria-label={hoursWords(energy)} width={`${full}px`} height={`${HEIGHT}px`}>
          <g transform={`translate(${LEFT},0)`}>
            <Frame energy={energy} from={from} to={to} width={width} {...scales} />
            <Path d={hourBand(past, x, y)} fill="store.battery.wash" />
            <Path d={hourLine(past, x, y)} fill="none" stroke="store.battery.line" strokeWidth="2" data-part="past" />
            <Path d={hourBand(coming, x, y)} fill="store.battery.wash" opacity="0.75" data-part="fan" />
            <Path
              d={hourLine(coming, x, y)}
              fill="none"
              stroke="store.battery.line"
              strokeWidth="1.8"
              strokeDasharray="1 4"
              strokeLinecap="round"
            />
            <Line x1={x(energy.now)} x2={x(energy.now)} y1={4} y2={BOTTOM} stroke="ink" strokeWidth="1.5" />
            <Text x={x(energy.now) + 5} y={14} fontSize="12px" fill="ink">
              now {clock(energy.now)}
            </Text>
            <Turn found={energy.low} name="low" below now={x(energy.now)} {...scales} />
            <Turn found={energy.high} name="high" below={false} now={x(energy.now)} {...scales} />
          </g>
        </chakra.svg>
      )}
    </Box>
  );
};
