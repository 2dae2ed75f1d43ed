import { geoAzimuthalEquidistant, geoPath, type GeoProjection } from "d3-geo";
import { feature, mesh } from "topojson-client";
import type { GeometryCollection, Topology } from "topojson-specification";

import type { Schemas } from "../api/client";

/** Land as one shape of many polygons, and the countries that share its borders. */
export type World = Topology<{ land: GeometryCollection; countries: GeometryCollection }>;

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

const deg = (radians: number) => (radians * 180) / Math.PI;

/** Coasts and borders round the rig, as paths; land that lies far outside is left out before it is drawn. */
export const outlineOf = ({ half, projection }: Sketched, world: World): { land: string; borders: string } => {
  const [lon, lat] = projection.invert?.([half, half]) ?? [0, 0];
  // to the corner of the drawing, and half as far again
  const around = deg((1.5 * Math.SQRT2 * half) / projection.scale());
  const path = geoPath(
    projection.clipAngle(40).clipExtent([
      [0, 0],
      [half * 2, half * 2],
    ]),
  );
  const near = feature(world, world.objects.land).features.flatMap(({ geometry }) =>
    geometry.type === "MultiPolygon"
      ? geometry.coordinates.filter(([rim]) => comesNear(rim ?? [], lon, lat, around))
      : [],
  );
  return {
    land: path({ type: "MultiPolygon", coordinates: near }) ?? "",
    borders: path(mesh(world, world.objects.countries, (a, b) => a !== b)) ?? "",
  };
};

/** Whether the box of a rim comes within so many degrees of a point. */
const comesNear = (rim: number[][], lon: number, lat: number, around: number): boolean => {
  const [lons, lats] = [rim.map(([x]) => x ?? 0), rim.map(([, y]) => y ?? 0)];
  const [west, east] = [lons.reduce((a, b) => Math.min(a, b)), lons.reduce((a, b) => Math.max(a, b))];
  const [south, north] = [lats.reduce((a, b) => Math.min(a, b)), lats.reduce((a, b) => Math.max(a, b))];
  // near a pole every meridian is near
  const wide = around / Math.max(Math.cos(rad(Math.min(89, Math.abs(lat) + around))), 0.02);
  const beside = [-360, 0, 360].some((turn) => lon + turn >= west - wide && lon + turn <= east + wide);
  return beside && lat >= south - around && lat <= north + around;
};
