import { chakra } from "@chakra-ui/react";
import { line } from "d3-shape";

import type { Across, Up } from "./scales";

const Path = chakra("path");
const Straight = chakra("line");

interface Props<T> {
  points: readonly T[];
  x: Across;
  y: Up;
  level: (point: T) => number;
  stroke: string;
  /** What is only expected is dotted. */
  dotted?: boolean;
  part?: string;
}

/** A level that goes along. */
export const Line = <T extends { at: string }>({ points, x, y, level, stroke, dotted, part }: Props<T>) => {
  const shape = line<T>()
    .x((point) => x(point.at))
    .y((point) => y(level(point)));
  return (
    <Path
      d={shape([...points]) ?? ""}
      fill="none"
      stroke={stroke}
      strokeWidth={dotted ? "1.7" : "2"}
      strokeLinejoin="round"
      strokeLinecap={dotted ? "round" : undefined}
      strokeDasharray={dotted ? "1 4" : undefined}
      data-part={part}
    />
  );
};

/** The line that a store is heading for, across everything; ``own``: as it was set up, where another holds now. */
export const LodeLine = ({ y, width, own }: { y: number; width: number; own?: boolean }) => (
  <Straight
    x1={0}
    x2={width}
    y1={y}
    y2={y}
    stroke="lode"
    strokeWidth="1"
    strokeDasharray={own ? "1 5" : "7 3"}
    opacity="0.75"
    data-part={own ? "own-line" : "line"}
  />
);

/** When a line may be reached: from the early to the late end, and the middle where there is one. */
export const Reach = ({
  from,
  to,
  middle,
  y,
  stroke,
}: {
  from: number;
  to: number;
  middle: number;
  y: number;
  stroke: string;
}) => (
  <>
    <Straight x1={from} x2={to} y1={y} y2={y} stroke={stroke} strokeWidth="4" data-part="reach" />
    <Path d={`M${middle},${y - 5}v10`} stroke={stroke} strokeWidth="3" />
  </>
);
