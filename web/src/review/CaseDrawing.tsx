import { chakra } from "@chakra-ui/react";
import { scaleLinear } from "d3-scale";

import type { Schemas } from "../api/client";

const WIDTH = 260;
const HEIGHT = 22;
const HORIZON = 14;
const x = scaleLinear()
  .domain([0, HORIZON])
  .range([4, WIDTH - 4])
  .clamp(true);

const Line = chakra("line");
const Path = chakra("path");

export const caseWords = (found: Schemas["Case"]): string => {
  const days = (value: number | null) => (value === null ? "beyond 14" : value.toFixed(1));
  const came =
    { reached: "the line was reached after", stopped: "a stop came first, after", beyond: "not reached within" }[
      found.outcome
    ] ?? "";
  const end = found.held === null ? "undecided" : found.held ? "held" : "did not hold";
  return `Said ${days(found.p10)} to ${days(found.p90)} days, middle ${days(found.p50)}; ${came} ${found.days.toFixed(1)} days; ${end}`;
};

/** The range that was shown, its middle, and a cross where it came true. Fourteen days from left to right. */
export const CaseDrawing = ({ found }: { found: Schemas["Case"] }) => {
  const low = x(found.p10 ?? HORIZON);
  const high = x(found.p90 ?? HORIZON);
  const end = x(found.days);
  const mid = HEIGHT / 2;
  return (
    <chakra.svg
      role="img"
      aria-label={caseWords(found)}
      width={`${WIDTH}px`}
      height={`${HEIGHT}px`}
      maxW="100%"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
    >
      <Line x1={4} x2={WIDTH - 4} y1={mid} y2={mid} stroke="rule" />
      <Line
        x1={low}
        x2={Math.max(high, low + 2)}
        y1={mid}
        y2={mid}
        stroke={`store.${found.kind}.line`}
        strokeWidth="6"
        opacity="0.55"
        data-part="range"
      />
      <Line
        x1={x(found.p50 ?? HORIZON)}
        x2={x(found.p50 ?? HORIZON)}
        y1={mid - 6}
        y2={mid + 6}
        stroke={`store.${found.kind}.line`}
        strokeWidth="2"
      />
      <Path
        d={`M${end - 4},${mid - 4}l8,8m0,-8l-8,8`}
        stroke={found.held === false ? "warn" : "ink"}
        strokeWidth="2"
        data-part="truth"
      />
    </chakra.svg>
  );
};
