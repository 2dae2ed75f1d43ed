import { Box, chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { memo, useMemo, useState } from "react";

import type { Schemas } from "../api/client";
import { Plain } from "../parts/Plain";
import { useWidth } from "../parts/width";
import { outlineOf, type Sketched, sketchOf, type World } from "./sketch";

const [Circle, Path, Text] = [chakra("circle"), chakra("path"), chakra("text")];
const [MOST_PX, DIGITS] = [520, 4];
const [NEAR_LABEL, LABEL_HEIGHT] = [8, 13];

/** The outline of coasts and borders: Natural Earth, in the public domain, shipped with the application. */
const useWorld = () =>
  useQuery({
    queryKey: ["world"],
    staleTime: Infinity,
    queryFn: async () => (await import("world-atlas/countries-50m.json")).default as unknown as World,
  }).data;

/** Drawn once for a place and a size: the whole world is a second of work on a slow phone. */
const Outline = memo(({ sketched, world }: { sketched: Sketched; world: World }) => {
  const drawn = outlineOf(sketched, world);
  return (
    <g aria-hidden>
      <Path d={drawn.land} fill="raised" stroke="edge" strokeWidth="1" />
      <Path d={drawn.borders} fill="none" stroke="rule" strokeWidth="1" strokeDasharray="2 3" />
    </g>
  );
});

const Rings = ({ sketched }: { sketched: Sketched }) => (
  <g aria-hidden>
    {sketched.rings.map((ring) => (
      <g key={ring.words}>
        <Circle cx={sketched.half} cy={sketched.half} r={ring.radius} fill="none" stroke="rule" strokeWidth="1" />
        <Text x={sketched.half} y={sketched.half - ring.radius + 12} fontSize="11px" fill="soft" textAnchor="middle">
          {ring.words}
        </Text>
      </g>
    ))}
  </g>
);

/** How far the fuel goes above what must stay, by road: a dashed ring, at the rim where it goes further. */
const Reach = ({ range, half }: { range: NonNullable<Sketched["range"]>; half: number }) => (
  <g data-part="range">
    <title>{range.words}</title>
    <Circle cx={half} cy={half} r={range.radius} fill="none" stroke="lode" strokeWidth="1.5" strokeDasharray="7 3" />
    <Text x={half} y={half + range.radius - 6} fontSize="11px" fill="ink" textAnchor="middle">
      {range.beyond ? `${range.words}, further than is drawn` : range.words}
    </Text>
  </g>
);

/** Which names can be written without lying over each other: those that matter first. */
const named = (sketched: Sketched): Set<string> => {
  const taken: { x: number; y: number; width: number }[] = [];
  const order = [...sketched.spots].sort((a, b) => Number(matters(b.spot)) - Number(matters(a.spot)));
  const free = order.filter(({ spot, x, y }) => {
    const width = spot.name.length * 6.4;
    const hits = taken.some((t) => Math.abs(t.y - y) < LABEL_HEIGHT && x < t.x + t.width && t.x < x + width);
    if (!hits) taken.push({ x, y, width });
    return !hits;
  });
  return new Set(free.map(({ spot }) => spot.id));
};

const matters = (spot: Schemas["SpotOut"]) => spot.fits && spot.offers.some((offer) => offer.matters);

/** A place: a filled disc where it serves what runs out first, a ring else, crossed where the rig is not let in. */
const Mark = ({
  spot,
  x,
  y,
  label,
  half,
  far,
}: {
  spot: Schemas["SpotOut"];
  x: number;
  y: number;
  label: boolean;
  half: number;
  far: boolean;
}) => {
  const strong = matters(spot);
  const left = x > half * 1.45;
  return (
    <g data-place={spot.id}>
      <title>{`${spot.name}: ${spot.offers.map((offer) => offer.words).join("; ")}`}</title>
      <Circle
        cx={x}
        cy={y}
        r={far ? 3 : strong ? 6 : 4}
        fill={strong ? "accent" : "page"}
        stroke={strong ? "accent" : "ink"}
        strokeWidth="1.5"
      />
      {!spot.fits && <Path d={`M${x - 6},${y - 6}l12,12`} stroke="warn" strokeWidth="2" />}
      {label && (
        <Text
          x={left ? x - NEAR_LABEL : x + NEAR_LABEL}
          y={y + 4}
          textAnchor={left ? "end" : "start"}
          fontSize="12px"
          fill={strong ? "ink" : "soft"}
          fontWeight={strong ? 600 : 400}
          paintOrder="stroke"
          stroke="page"
          strokeWidth="3"
        >
          {far ? `${spot.name} (further)` : spot.name}
        </Text>
      )}
    </g>
  );
};

/** A sketch and no map: the rig in the middle, rings of equal way, the places at their bearing. */
export const Sketch = ({ book, add }: { book: Schemas["BookOut"]; add?: (at: string) => void }) => {
  const [pressed, setPressed] = useState<[number, number] | null>(null);
  const [box, width] = useWidth();
  const world = useWorld();
  const side = Math.min(width, MOST_PX);
  const sketched = useMemo(() => (side > 0 ? sketchOf(book, side) : null), [book, side]);
  const point = pressed && sketched?.projection.invert?.(pressed);
  const at = point ? `${point[1].toFixed(DIGITS)}, ${point[0].toFixed(DIGITS)}` : null;
  const labels = sketched ? named(sketched) : new Set<string>();
  return (
    <Box ref={box} minW="0">
      {!book.here && <Box color="soft">Say where the rig stands, in the Round, and the places are drawn round it.</Box>}
      {sketched && (
        <>
          <chakra.svg
            role="img"
            aria-label={`Sketch of ${book.spots.length} places round ${book.here_words}; the list beside it says the same.`}
            width={`${side}px`}
            height={`${side}px`}
            viewBox={`0 0 ${side} ${side}`}
            display="block"
            overflow="hidden"
            onClick={(event) => {
              const { left, top } = event.currentTarget.getBoundingClientRect();
              setPressed([event.clientX - left, event.clientY - top]);
            }}
            bg="sunken"
            borderRadius="md"
          >
            {world && <Outline sketched={sketched} world={world} />}
            <Rings sketched={sketched} />
            {sketched.range && <Reach range={sketched.range} half={sketched.half} />}
            <Path d={`M${sketched.half},${sketched.half - 7}l6,12h-12z`} fill="first" />
            {sketched.spots.map(({ spot, x, y, far }) => (
              <Mark key={spot.id} spot={spot} x={x} y={y} half={sketched.half} label={labels.has(spot.id)} far={far} />
            ))}
            {add && pressed && (
              <Path d={`M${pressed[0] - 8},${pressed[1]}h16m-8,-8v16`} stroke="accent" strokeWidth="2" fill="none" />
            )}
          </chakra.svg>
          {add && at && (
            <Plain mt="1" onClick={() => add(at)}>
              Add a place at {at}
            </Plain>
          )}
          <Box color="soft" fontSize="sm" mt="1">
            {book.here_words} in the middle, north up.
            {book.range && " Dashed: how far the fuel goes above what must stay."} Filled: serves what runs out first.
            Crossed: this rig is too large. Coasts and borders: Natural Earth.
          </Box>
        </>
      )}
    </Box>
  );
};
