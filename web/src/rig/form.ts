import { needed, optional, text, z } from "../forms/schema";
import { isUnread } from "../forms/typed";
import type { RigDoc } from "./fields";

const MISSING = "Write a number here; it was left empty.";

/** Marks rise from 0 to 1 and are shares of full. */
const marksProblem = (marks: unknown): string | null => {
  if (isUnread(marks)) return marks.problem;
  const numbers = marks as number[];
  if (numbers.length < 2) return "Write at least two marks, such as 0, 0.5, 1.";
  if (numbers.some((mark) => mark < 0 || mark > 1)) return "Write marks between 0 and 1.";
  return numbers.every((mark, index) => index === 0 || mark > (numbers[index - 1] ?? 0))
    ? null
    : "Write marks that rise.";
};

const gauge = z.nullable(
  z.looseObject({ kind: z.string(), resolution: z.optional(needed({ over: 0, most: 1 })) }).check((context) => {
    const { kind, marks } = context.value as { kind: string; marks?: unknown };
    const problem = kind === "steps" ? marksProblem(marks) : null;
    if (problem) context.issues.push({ code: "custom", path: ["marks"], message: problem, input: marks });
  }),
);

const layout = z.looseObject({
  unit_v: needed({ over: 0 }),
  unit_ah: needed({ over: 0 }),
  series: needed({ least: 1, whole: true }),
  parallel: needed({ least: 1, whole: true }),
});

const store = z
  .looseObject({
    name: text(),
    capacity: optional({ over: 0 }),
    limit: optional({ least: 0, most: 1 }),
    reserve: optional({ over: 0 }),
    tare_kg: optional({ over: 0 }),
    propane_share: optional({ least: 0, most: 1 }),
    tank_l: optional({ over: 0 }),
    pick_up: optional({ least: 0, most: 0.9 }),
    kwh_per_unit: optional({ over: 0, most: 20 }),
    buffer_days: optional({ least: 0, most: 60 }),
    nominal_v: optional({ over: 0 }),
    gauge: z.optional(gauge),
    layout: z.optional(z.nullable(layout)),
  })
  .check((context) => {
    // what parallel strings make needs no capacity of its own
    if (context.value.capacity === null && !context.value.layout)
      context.issues.push({ code: "custom", path: ["capacity"], message: MISSING, input: null });
  });

/** Everything aboard, as far as it can be checked here; the server checks how it fits together. */
export const RIG = z.looseObject({
  name: text(),
  timezone: text(64),
  crew: z.looseObject({
    adults: needed({ least: 0, whole: true }),
    children: needed({ least: 0, whole: true }),
    pets: needed({ least: 0, whole: true }),
  }),
  stores: z.array(store),
  solar: z.optional(
    z.array(
      z.looseObject({
        watts: needed({ least: 0 }),
        tilt_deg: needed({ least: 0, most: 90 }),
        azimuth_deg: needed({ least: 0, most: 360 }),
        controller_amps: optional({ over: 0 }),
        horizon_deg: optional({ least: 0, under: 90 }),
      }),
    ),
  ),
  sources: z.optional(
    z.array(
      z.looseObject({
        amps: needed({ over: 0 }),
        fuel_l_per_h: optional({ over: 0 }),
        idle_l_per_h: optional({ over: 0 }),
        full_l_per_h: optional({ over: 0 }),
        rated_w: optional({ over: 0 }),
        oil_hours: optional({ least: 5 }),
      }),
    ),
  ),
  inverter: z.optional(
    z.nullable(
      z.looseObject({
        watts: needed({ over: 0 }),
        surge_watts: optional({ over: 0 }),
        idle_watts: needed({ least: 0 }),
        efficiency: needed({ over: 0, most: 1 }),
      }),
    ),
  ),
  appliances: z.optional(
    z.array(
      z.looseObject({
        name: text(),
        kw: optional({ over: 0, most: 100 }),
        hours_per_day: optional({ least: 0, most: 24 }),
        watts: optional({ least: 0, most: 5000 }),
        lowest_kw: optional({ least: 0, most: 100 }),
        efficiency: optional({ over: 0, most: 1 }),
      }),
    ),
  ),
  loads: z.optional(
    z.array(
      z.looseObject({ name: text(), watts: needed({ least: 0 }), hours_per_day: needed({ least: 0, most: 24 }) }),
    ),
  ),
}) as unknown as z.ZodMiniType<RigDoc, RigDoc>;

/** The fields of a rig's form by their paths, so that a refusal finds its own. */
export const pathsOf = (value: unknown, path = ""): string[] => {
  if (value === null || typeof value !== "object" || isUnread(value)) return path ? [path] : [];
  const inner = Object.entries(value).flatMap(([key, each]) => pathsOf(each, path ? `${path}.${key}` : key));
  return path ? [path, ...inner] : inner;
};
