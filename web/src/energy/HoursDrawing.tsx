import { Box } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { Caption, Level, Upright } from "../charts/Axis";
import { Band } from "../charts/Band";
import { Lane } from "../charts/Lane";
import { Line, LodeLine } from "../charts/Line";
import { Extent } from "../charts/Mark";
import { type Across, levelScale, time, timeScale, type Up } from "../charts/scales";
import { useWidth } from "../parts/width";
import { clockWords } from "../parts/words";

type Energy = Schemas["EnergyOut"];

const HEIGHT = 224;
const TOP = 40;
const BOTTOM = HEIGHT - 24;
const LEFT = 48;
const DAY_MS = 86_400_000;
const NARROW = 600;
const NEAR_PX = 90;
const [LINE, WASH] = ["hue.amber.line", "hue.amber.wash"];

/** A low or a high: where it lies, and what it says beside it. */
const Turn = ({ turn, below, now, x, y }: { turn: Energy["low"]; below: boolean; now: number; x: Across; y: Up }) => {
  if (!turn) return null;
  const [at, level] = [x(turn.at), y(below ? turn.p10 : turn.p90)];
  const end = below ? Math.min(level + 20, BOTTOM - 16) : Math.max(level - 10, TOP - 6);
  return (
    <g data-part={below ? "low" : "high"}>
      <Extent x={at} top={y(turn.p90)} bottom={y(turn.p10)} />
      <Caption x={at} y={end} size="12px" ink="ink" strong anchor={at - now < NEAR_PX ? "start" : "middle"}>
        {turn.words}
      </Caption>
    </g>
  );
};

const Frame = ({ energy, width, x, y }: { energy: Energy; width: number; x: Across; y: Up }) => {
  const marks = width < NARROW ? [0, 0.5, 1] : [0, 0.25, 0.5, 0.75, 1];
  return (
    <>
      {marks.map((share) => (
        <Level key={share} y={y(share)} width={width}>
          {Math.round(share * 100)} %
        </Level>
      ))}
      {energy.nights
        .filter((night) => x(night.at) >= 0 && x(night.at) <= width)
        .map((night) => (
          <g key={night.at}>
            <Upright x={x(night.at)} top={TOP - 8} bottom={BOTTOM} />
            <Caption x={x(night.at) + 5} y={HEIGHT - 8} size="12px">
              {night.label}
            </Caption>
          </g>
        ))}
      <LodeLine y={y(energy.line)} width={width} />
      <Caption x={4} y={y(energy.line) - 5} ink="ink">
        {energy.line_words}
      </Caption>
    </>
  );
};

/** The last day and the coming two, hour by hour: the level, its range, the low and the high. */
export const HoursDrawing = ({ energy }: { energy: Energy }) => {
  const [box, full] = useWidth();
  const width = Math.max(full - LEFT - 8, 200);
  const now = time(energy.now.at);
  const from = now - (full < NARROW ? 0.5 : 1) * DAY_MS;
  const to = now + (full < NARROW ? 1.5 : 2) * DAY_MS;
  const x = timeScale(from, to, width);
  const y = levelScale(1, BOTTOM, TOP);
  const past = energy.past.filter((hour) => time(hour.at) >= from);
  const start = energy.level ? [{ at: energy.now.at, ...energy.level }] : [];
  const coming = [...start, ...energy.hours.filter((hour) => time(hour.at) <= to)];
  const [low, middle, high] = [
    (hour: Energy["hours"][number]) => hour.p10,
    (hour: Energy["hours"][number]) => hour.p50,
    (hour: Energy["hours"][number]) => hour.p90,
  ];
  return (
    <Box ref={box}>
      {full > 0 && (
        <Lane words={energy.hours_words} width={full} height={HEIGHT} left={LEFT}>
          <Frame energy={energy} width={width} x={x} y={y} />
          <Band points={past} x={x} y={y} low={low} high={high} fill={WASH} />
          <Line points={past} x={x} y={y} level={middle} stroke={LINE} part="past" />
          <Band points={coming} x={x} y={y} low={low} high={high} fill={WASH} opacity={0.75} part="fan" />
          <Line points={coming} x={x} y={y} level={middle} stroke={LINE} dotted />
          <Upright x={x(energy.now.at)} top={4} bottom={BOTTOM} strong part="now" />
          <Caption x={x(energy.now.at) + 5} y={14} size="12px" ink="ink">
            now {clockWords(energy.now)}
          </Caption>
          <Turn turn={energy.low} below now={x(energy.now.at)} x={x} y={y} />
          <Turn turn={energy.high} below={false} now={x(energy.now.at)} x={x} y={y} />
        </Lane>
      )}
    </Box>
  );
};
