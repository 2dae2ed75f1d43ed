import { geoAzimuthalEquidistant, type GeoProjection } from "d3-geo";

import type { Schemas } from "../api/client";

const EARTH_KM = 6371;
const KM_PER_MILE = 1.609344;

/** Rings stand at ways by road; on the sketch a way is drawn as long as the straight line that goes with it. */
export interface Sketched {
  /** Half of the drawing's side, in px. */
  half: number;
  projection: GeoProjection;
  /** ``far``: it lies outside, and stands at the rim at its bearing. */
  spots: { spot: Schemas["SpotOut"]; x: number; y: number; far: boolean }[];
  rings: { words: string; radius: number }[];
  /** How far the fuel goes; at the rim where it goes further than is drawn. */
  range: { words: string; radius: number; beyond: boolean } | null;
}

/** The places round the rig, each at its bearing and its way; north is up. Null where nobody knows where the rig is. */
export const sketchOf = (book: Schemas["BookOut"], side: number): Sketched | null => {
  const outer = book.rings.at(-1)?.way;
  if (!book.here || !outer) return null;
  const half = side / 2;
  const per = (half - 18) / outer;
  const km = book.unit === "mi" ? KM_PER_MILE : 1;
  // the outline lies under the places to the same scale: ways are a little longer than straight lines
  const scale = ((per / km) * EARTH_KM * (roadOf(book) ?? 1.3)) as number;
  const projection = geoAzimuthalEquidistant()
    .rotate([-book.here.lon, -book.here.lat])
    .translate([half, half])
    .scale(scale)
    .precision(0.3);
  const spots = book.spots.flatMap((spot) => {
    const at = projection([spot.lon, spot.lat]);
    return at ? [atRim(spot, at[0], at[1], half)] : [];
  });
  const rings = book.rings.map((ring) => ({ words: ring.words, radius: ring.way * per }));
  return { half, projection, spots, rings, range: rangeOf(book.range, per, half) };
};

const RIM_PX = 9;

const rangeOf = (range: Schemas["BookOut"]["range"], per: number, half: number): Sketched["range"] => {
  if (!range) return null;
  const radius = range.way * per;
  return { words: range.words, radius: Math.min(radius, half - 2), beyond: radius > half - 2 };
};

const atRim = (spot: Schemas["SpotOut"], x: number, y: number, half: number) => {
  const [dx, dy] = [x - half, y - half];
  const distance = Math.hypot(dx, dy);
  const most = half - RIM_PX;
  if (distance <= most) return { spot, x, y, far: false };
  return { spot, x: half + (dx / distance) * most, y: half + (dy / distance) * most, far: true };
};

/** How much longer ways are than straight lines, as the places themselves say. */
const roadOf = (book: Schemas["BookOut"]): number | null => {
  const { here } = book;
  const far = book.spots.reduce<Schemas["SpotOut"] | null>(
    (most, each) => ((each.way ?? 0) > (most?.way ?? 0) ? each : most),
    null,
  );
  if (!here || !far?.way) return null;
  const straight = between(here, far);
  const way = book.unit === "mi" ? far.way * KM_PER_MILE : far.way;
  return straight > 0 ? way / straight : null;
};

const rad = (deg: number) => (deg * Math.PI) / 180;

const between = (a: { lat: number; lon: number }, b: { lat: number; lon: number }): number => {
  const half =
    Math.sin(rad(b.lat - a.lat) / 2) ** 2 +
    Math.cos(rad(a.lat)) * Math.cos(rad(b.lat)) * Math.sin(rad(b.lon - a.lon) / 2) ** 2;
  return 2 * EARTH_KM * Math.asin(Math.sqrt(Math.min(1, half)));
};
