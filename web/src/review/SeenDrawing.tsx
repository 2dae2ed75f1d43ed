import { chakra } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { Lane } from "../charts/Lane";

const WIDTH = 320;
const HEIGHT = 34;
const PAD = 6;
const BAND = [0.1, 0.9] as const;
const Rect = chakra("rect");
const Dot = chakra("circle");
const Line = chakra("line");

const across = (place: number): number => PAD + place * (WIDTH - 2 * PAD);

/** Readings of a store from left (less than expected) to right (more), the range of 8 in 10 as a band. */
export const SeenDrawing = ({ store }: { store: Schemas["StoreReview"] }) => (
  <Lane words={store.words} width={WIDTH} height={HEIGHT}>
    <Rect
      x={across(BAND[0])}
      width={across(BAND[1]) - across(BAND[0])}
      y={3}
      height={HEIGHT - 6}
      fill="sunken"
      data-part="band"
    />
    <Line x1={across(0.5)} x2={across(0.5)} y1={3} y2={HEIGHT - 3} stroke="rule" />
    {store.dots.map((dot, index) => (
      <Dot
        key={index}
        cx={across(dot.place)}
        cy={HEIGHT / 2 + ((index % 5) - 2) * 5}
        r={2.6}
        fill={dot.held ? `hue.${store.hue}.line` : "raised"}
        stroke={`hue.${store.hue}.line`}
        strokeWidth="1.4"
        data-part={dot.held ? "in" : "out"}
      />
    ))}
  </Lane>
);
