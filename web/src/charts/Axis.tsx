import { chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

const Rule = chakra("line");
const Text = chakra("text");

/** An upright through a drawing: a midnight, or the moment itself. */
export const Upright = ({
  x,
  top,
  bottom,
  strong,
  part,
}: {
  x: number;
  top: number;
  bottom: number;
  strong?: boolean;
  part?: string;
}) => (
  <Rule
    x1={x}
    x2={x}
    y1={top}
    y2={bottom}
    stroke={strong ? "ink" : "rule"}
    strokeWidth={strong ? "1.5" : "1"}
    opacity={strong ? 1 : 0.6}
    data-part={part}
  />
);

/** A level line across a drawing, with what it stands for at its left. */
export const Level = ({
  y,
  width,
  strong,
  children,
}: {
  y: number;
  width: number;
  strong?: boolean;
  children?: ReactNode;
}) => (
  <>
    <Rule x1={0} x2={width} y1={y} y2={y} stroke={strong ? "ink" : "rule"} opacity={strong ? 1 : 0.6} />
    {children && (
      <Caption x={-6} y={y + 4} anchor="end">
        {children}
      </Caption>
    )}
  </>
);

/** A word of a drawing. */
export const Caption = ({
  x,
  y,
  anchor = "start",
  size = "11px",
  ink,
  strong,
  children,
}: {
  x: number;
  y: number;
  anchor?: "start" | "middle" | "end";
  size?: string;
  ink?: string;
  strong?: boolean;
  children: ReactNode;
}) => (
  <Text x={x} y={y} fontSize={size} fill={ink ?? "soft"} textAnchor={anchor} fontWeight={strong ? 600 : undefined}>
    {children}
  </Text>
);
