import { chakra } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { Lane } from "../charts/Lane";
import { Cross } from "../charts/Mark";
import { daysScale } from "../charts/scales";

const WIDTH = 260;
const HEIGHT = 22;
const Line = chakra("line");

/** The range that was shown, its middle, and a cross where it came true; the horizon from left to right. */
export const CaseDrawing = ({ one, horizonDays }: { one: Schemas["Case"]; horizonDays: number }) => {
  const x = daysScale(horizonDays, 4, WIDTH - 4);
  const [low, middle, high] = [one.p10, one.p50, one.p90].map((days) => x(days ?? horizonDays)) as [
    number,
    number,
    number,
  ];
  const mid = HEIGHT / 2;
  return (
    <Lane words={one.words} width={WIDTH} height={HEIGHT}>
      <Line x1={4} x2={WIDTH - 4} y1={mid} y2={mid} stroke="rule" />
      <Line
        x1={low}
        x2={Math.max(high, low + 2)}
        y1={mid}
        y2={mid}
        stroke={`hue.${one.hue}.line`}
        strokeWidth="6"
        opacity="0.55"
        data-part="range"
      />
      <Line x1={middle} x2={middle} y1={mid - 6} y2={mid + 6} stroke={`hue.${one.hue}.line`} strokeWidth="2" />
      <Cross x={x(one.days)} y={mid} bad={one.held === false} />
    </Lane>
  );
};
