import { Box, chakra } from "@chakra-ui/react";

import { kindOf } from "../api/catalogue";
import type { RigDoc } from "../forms/rig";
import { asButton } from "../parts/keys";
import { useWidth } from "../parts/width";
import { isUnder } from "./parts";

const Path = chakra("path");
const Rect = chakra("rect");
const Text = chakra("text");
const Line = chakra("line");
const Group = chakra("g", { base: { cursor: "pointer", "&:focus-visible rect": { strokeWidth: "3px" } } });

type Store = RigDoc["stores"][number];

const HEIGHT = 214;
const THUMB = 44;
const TOP = 42;
const FLOOR = 146;
const SILL = 182;
const NAMED_FROM = 84;
const GAP = 8;
const MOST = 156;

const Outline = ({ width }: { width: number }) => {
  const [left, right, nose] = [6, width - 6, Math.min(150, width * 0.2)];
  const wheel = Math.min(18, width * 0.035);
  const wheels = [left + (right - left) * 0.2, right - nose * 0.62];
  return (
    <>
      <Path
        d={`M${left + 10},${TOP} H${right - nose} Q${right - nose * 0.35},${TOP + 4} ${right - nose * 0.22},${TOP + 52}
          L${right - 8},${TOP + 66} Q${right},${TOP + 70} ${right},${TOP + 84} V${SILL} H${left} V${TOP + 10}
          Q${left},${TOP} ${left + 10},${TOP} Z`}
        fill="raised"
        stroke="edge"
        strokeWidth="2"
      />
      <Path
        d={`M${right - nose * 0.86},${TOP + 14} H${right - nose * 0.52} L${right - nose * 0.34},${TOP + 54} H${right - nose * 0.86} Z`}
        fill="sunken"
        stroke="rule"
      />
      <Line x1={left} x2={right - nose} y1={FLOOR} y2={FLOOR} stroke="rule" strokeWidth="1.5" />
      {wheels.map((x) => (
        <chakra.circle key={x} cx={x} cy={SILL + 6} r={wheel} fill="sunken" stroke="edge" strokeWidth="2" />
      ))}
    </>
  );
};

const Panels = ({ doc, width }: { doc: RigDoc; width: number }) => {
  const arrays = doc.solar ?? [];
  const room = width * 0.6;
  const each = Math.min(180, room / Math.max(1, arrays.length) - GAP);
  return arrays.map((array, index) => {
    const x = 30 + index * (each + GAP);
    return (
      <g key={array.id}>
        <Rect x={x} y={TOP - 12} width={each} height={7} fill="hue.amber.wash" stroke="hue.amber.line" />
        <Text x={x} y={TOP - 18} fontSize="12px" fill="soft">
          {typeof array.watts === "number" ? `${Math.round(array.watts)} W` : ""}
        </Text>
      </g>
    );
  });
};

interface BoxProps {
  store: Store;
  number: number;
  x: number;
  width: number;
  open: (place: string) => void;
}

/** One store where it is aboard, with its lode line across it. */
const StoreBox = ({ store, number, x, width, open }: BoxProps) => {
  const under = isUnder(store);
  const [top, bottom] = under ? [FLOOR + 5, SILL - 3] : [FLOOR - 56, FLOOR];
  const kind = kindOf(store.kind);
  const limit = typeof store.limit === "number" ? store.limit : kind.usualLine;
  const line = bottom - (bottom - top) * limit;
  const go = () => open(`stores.${store.id}`);
  return (
    <Group role="button" tabIndex={0} aria-label={`${number} ${store.name}`} onClick={go} onKeyDown={asButton(go)}>
      <Rect
        x={x}
        y={top}
        width={width}
        height={bottom - top}
        fill={`hue.${kind.hue}.wash`}
        stroke={`hue.${kind.hue}.line`}
        strokeWidth="1.5"
      />
      {/* a thumb's width, where the box itself is lower */}
      <rect
        x={x}
        y={(top + bottom - THUMB) / 2}
        width={width}
        height={Math.max(THUMB, bottom - top)}
        fill="transparent"
      />
      <Line x1={x} x2={x + width} y1={line} y2={line} stroke="lode" strokeDasharray="7 3" opacity="0.75" />
      <Text x={x + 5} y={under ? bottom - 9 : top + 17} fontSize="12px" fontWeight="600" fill="ink">
        {width >= NAMED_FROM ? `${number} ${short(store.name, width)}` : number}
      </Text>
    </Group>
  );
};

const PX_A_LETTER = 7.2;
const short = (name: string, width: number): string => {
  const most = Math.floor((width - 24) / PX_A_LETTER);
  return name.length <= most ? name : `${name.slice(0, Math.max(1, most - 1))}…`;
};

const placed = (stores: readonly [Store, number][], from: number, to: number) => {
  const width = Math.min(MOST, (to - from + GAP) / Math.max(1, stores.length) - GAP);
  return stores.map(([store, number], index) => ({ store, number, x: from + index * (width + GAP), width }));
};

/** The rig from the side, with its stores where they are, its panels on the roof, and each store's lode line. */
export const Drawing = ({ doc, open }: { doc: RigDoc; open: (place: string) => void }) => {
  const [box, width] = useWidth();
  const numbered = doc.stores.map((store, index): [Store, number] => [store, index + 1]);
  const nose = Math.min(150, width * 0.2);
  const wheel = Math.min(18, width * 0.035);
  const boxes = [
    ...placed(
      numbered.filter(([store]) => !isUnder(store)),
      20,
      width - nose - 16,
    ),
    ...placed(
      numbered.filter(([store]) => isUnder(store)),
      6 + (width - 12) * 0.2 + wheel + 8,
      width - nose * 0.62 - wheel - 14,
    ),
  ];
  return (
    <Box ref={box} mb="4" maxW="56rem" mx="auto">
      {width > 0 && (
        <chakra.svg
          role="group"
          aria-label="The rig from the side"
          width={`${width}px`}
          height={`${HEIGHT}px`}
          viewBox={`0 0 ${width} ${HEIGHT}`}
          display="block"
        >
          <Outline width={width} />
          <Panels doc={doc} width={width} />
          {boxes.map((each) => (
            <StoreBox key={each.store.id} {...each} open={open} />
          ))}
        </chakra.svg>
      )}
    </Box>
  );
};
