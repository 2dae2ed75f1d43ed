import { chakra } from "@chakra-ui/react";

const Rect = chakra("rect");
const Path = chakra("path");

/** An amount as a bar, from its foot. */
export const Bar = ({
  x,
  y,
  width,
  height,
  fill,
  open,
  part,
}: {
  x: number;
  y: number;
  width: number;
  height: number;
  fill: string;
  /** What is only assumed is drawn by its edge alone. */
  open?: boolean;
  part?: string;
}) => (
  <Rect
    x={x}
    y={y}
    width={width}
    height={height}
    fill={open ? "none" : fill}
    stroke={open ? fill : undefined}
    strokeWidth="1.2"
    data-part={part}
  />
);

/** What was there to be had, as a bracket over a bar. */
export const Bracket = ({ x, y, width, part }: { x: number; y: number; width: number; part?: string }) => (
  <Path d={`M${x},${y + 5}v-5h${width}v5`} fill="none" stroke="ink" strokeWidth="1.2" data-part={part} />
);

/** A lid: no more had room. */
export const Lid = ({ x, y, width }: { x: number; y: number; width: number }) => (
  <Path d={`M${x},${y}h${width}`} stroke="first" strokeWidth="2" data-part="lid" />
);
