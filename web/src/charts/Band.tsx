import { chakra } from "@chakra-ui/react";
import { area } from "d3-shape";

import type { Across, Up } from "./scales";

const Path = chakra("path");

interface Props<T> {
  points: readonly T[];
  x: Across;
  y: Up;
  low: (point: T) => number;
  high: (point: T) => number;
  fill: string;
  opacity?: number;
  part?: string;
}

/** A range that goes along: from its low to its high end. */
export const Band = <T extends { at: string }>({ points, x, y, low, high, fill, opacity, part }: Props<T>) => {
  const shape = area<T>()
    .x((point) => x(point.at))
    .y0((point) => y(low(point)))
    .y1((point) => y(high(point)));
  return <Path d={shape([...points]) ?? ""} fill={fill} opacity={opacity} data-part={part} />;
};
