import { geoPath } from "d3-geo";
import { feature } from "topojson-client";
import { describe, expect, it } from "vitest";
import atlas from "world-atlas/countries-50m.json";

import { aBook, aSpot } from "../testing/stops";
import { outlineOf, sketchOf, type World } from "./sketch";

const at = (spot: Partial<ReturnType<typeof aSpot>>) => {
  const sketched = sketchOf(aBook([{ ...aSpot(), ...spot }]), 400);
  const [first] = sketched?.spots ?? [];
  if (!sketched || !first) throw new Error("nothing was drawn");
  return { ...first, rings: sketched.rings, half: sketched.half };
};

describe("the sketch of places", () => {
  it("puts a place north of the rig over it, as far as the ring of its way", () => {
    const { x, y, half, rings } = at({});
    expect(x).toBeCloseTo(half, 3);
    const tenKm = rings[0]?.radius ?? 0;
    // 0.09 degrees are 10.0 km straight on, 13 km by road
    expect(half - y).toBeCloseTo(tenKm * 1.3, -0.5);
  });

  it("keeps what is too far at the rim, at its bearing", () => {
    const { x, y, half, far } = at({ lat: 53.91, lon: -1, way: 85 });
    expect(far).toBe(true);
    expect(x).toBeGreaterThan(half + 180);
    expect(Math.abs(y - half)).toBeLessThan(5);
  });

  it("draws how far the fuel goes to the scale of the rings, at the rim where it goes further", () => {
    const ringed = (way: number) => sketchOf({ ...aBook([aSpot()]), range: { way, words: "range" } }, 400);
    const near = ringed(10);
    expect(near?.range?.radius).toBeCloseTo(near?.rings.find((ring) => ring.words.startsWith("10"))?.radius ?? 0, 3);
    expect(ringed(5000)?.range).toMatchObject({ beyond: true, radius: 198 });
    expect(sketchOf(aBook([aSpot()]), 400)?.range).toBeNull();
  });

  it("draws nothing where nobody knows where the rig is", () => {
    expect(sketchOf({ ...aBook([aSpot()]), here: null }, 400)).toBeNull();
  });

  it.each([
    ["on a coast", 38.5, -8.9],
    ["far inland", -23.7, 133.9],
    ["at the date line", -16.8, 179.9],
    ["far north", 71.1, 25.8],
  ])("draws the same land %s as from the whole world", (_, lat, lon) => {
    const world = atlas as unknown as World;
    const sketched = sketchOf(
      { ...aBook([{ ...aSpot(), lat: lat + 0.5, lon }]), here: { name: "here", lat, lon } },
      400,
    );
    if (!sketched) throw new Error("nothing was drawn");
    const { land } = outlineOf(sketched, world);
    expect(land).toBe(geoPath(sketched.projection)(feature(world, world.objects.land)));
    expect(land).not.toBe("");
  });
});
