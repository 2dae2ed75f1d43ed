import { chakra } from "@chakra-ui/react";

const Path = chakra("path");

/** A reading as it was taken: a bracket over what it speaks for. One that is doubted is a cross. */
export const ReadingMark = ({
  x,
  top,
  bottom,
  doubtful,
  words,
}: {
  x: number;
  top: number;
  bottom: number;
  doubtful: boolean;
  words: string;
}) => (
  <Path
    d={
      doubtful
        ? `M${x - 5},${(top + bottom) / 2 - 5}l10,10m0,-10l-10,10`
        : `M${x - 3},${top}h6M${x},${top}V${bottom}M${x - 3},${bottom}h6`
    }
    fill="none"
    stroke={doubtful ? "warn" : "ink"}
    strokeWidth={doubtful ? 2 : 1}
    opacity={doubtful ? 1 : 0.55}
    data-part={doubtful ? "doubtful" : "reading"}
  >
    <title>{words}</title>
  </Path>
);

export type Way = "in" | "out" | "other";

const SHAPES: Record<Way, (x: number) => string> = {
  in: (x) => `M${x},1l4,6h-8z`,
  out: (x) => `M${x},7l4,-6h-8z`,
  other: (x) => `M${x - 1.5},1h3v6h-3z`,
};

/** Something that was done, on the upper edge: a wedge up for what came in, down for what went out, a bar else. */
export const EventMark = ({ x, way, words }: { x: number; way: Way; words: string }) => (
  <Path d={SHAPES[way](x)} fill="ink" data-part="event">
    <title>{words}</title>
  </Path>
);

/** Where something came true. */
export const Cross = ({ x, y, bad }: { x: number; y: number; bad: boolean }) => (
  <Path d={`M${x - 4},${y - 4}l8,8m0,-8l-8,8`} stroke={bad ? "warn" : "ink"} strokeWidth="2" data-part="truth" />
);

/** A range at one moment, upright. */
export const Extent = ({ x, top, bottom }: { x: number; top: number; bottom: number }) => (
  <Path d={`M${x},${top}V${bottom}`} stroke="ink" strokeWidth="2" data-part="extent" />
);
