import { chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** The frame of a drawing, said in words. Its size is its own, or the width that there is. */
export const Lane = ({
  words,
  width,
  height,
  left = 0,
  top = 0,
  children,
}: {
  words: string;
  width: number;
  height: number;
  left?: number;
  top?: number;
  children: ReactNode;
}) => (
  <chakra.svg
    role="img"
    aria-label={words}
    width={`${width}px`}
    height={`${height}px`}
    viewBox={`0 0 ${width} ${height}`}
    maxW="100%"
    display="block"
    overflow="hidden"
  >
    <g transform={left || top ? `translate(${left},${top})` : undefined}>{children}</g>
  </chakra.svg>
);
