import { Box, Grid } from "@chakra-ui/react";
import { FormProvider, type Path } from "react-hook-form";

import { CATALOGUE, choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { Problem } from "../parts/Notice";
import { SkyMark } from "../parts/Sky";
import { useAtOnce } from "./atOnce";
import { NoteField, NumberField } from "./fields";
import { type Place, PlaceField } from "./PlaceField";
import { optional, z } from "./schema";
import { Toggles } from "./Toggles";
import type { Typed } from "./typed";

/** Everything that can be said of a date, whether it is over or to come. */
interface DayFacts {
  sky: string | null;
  status: string | null;
  temp_min: Typed;
  temp_max: Typed;
  crew_aboard: Typed;
  solar_wh?: Typed;
  load_wh?: Typed;
  water?: Typed;
  note?: string | null;
  hours?: Record<string, Typed>;
  place?: Place | null;
  panels_covered?: boolean | null;
}

export type Field = keyof DayFacts;
export type Change = Schemas["DayIn"] & Schemas["OutlookIn"];

const word = z.nullable(z.string());
const SCHEMA = z.object({
  sky: word,
  status: word,
  temp_min: optional(),
  temp_max: optional(),
  crew_aboard: optional({ least: 0, whole: true }),
  solar_wh: optional({ least: 0 }),
  load_wh: optional({ least: 0 }),
  water: optional({ least: 0 }),
  note: z.optional(word),
  place: z.optional(z.any()),
  panels_covered: z.optional(z.nullable(z.boolean())),
  hours: z.optional(z.record(z.string(), optional({ least: 0, most: 24 }))),
}) as unknown as z.ZodMiniType<DayFacts, DayFacts>;

const SKIES = choices(CATALOGUE.skies);
const STATUSES = choices(CATALOGUE.statuses);
const NUMBERS = ["temp_min", "temp_max", "crew_aboard", "solar_wh", "load_wh", "water"] as const;

/** A change of one field as it is sent. */
const changeOf = (name: string, value: unknown): Change => {
  const source = /^hours\.(.+)$/.exec(name)?.[1];
  if (source) return { hours: { [source]: value as number | null } };
  return { [name]: value === "" ? null : value } as Change;
};

const COVERED = [["covered", "Snow covers the panels"]] as const;

/** Whether snow lies on the panels: one touch, and one more takes it back. */
const Covered = ({ onKeep }: { onKeep: () => void }) => (
  <Toggles
    name="panels_covered"
    options={COVERED}
    shown={(value) => (value ? "covered" : null)}
    kept={(word) => (word ? true : null)}
    onKeep={onKeep}
  />
);

/** A day's facts; each is kept as it is left. ``fields`` says which are asked, ``labels`` what is said otherwise. */
export const DayFactsForm = ({
  facts,
  fields,
  units,
  labels = {},
  where,
  keep,
}: {
  facts: DayFacts;
  fields: readonly Field[];
  units: { temp: string; water: string };
  labels?: Partial<Record<Field, string>>;
  /** Where the rig stands as far as is known, and where it stood before. */
  where?: Schemas["WhereOut"];
  keep: (change: Change) => Promise<unknown>;
}) => {
  const sources = fields.includes("hours") ? CATALOGUE.sourceKinds : [];
  const paths = [...fields, ...sources.map((row) => `hours.${row.id}`)];
  const { form, keepField } = useAtOnce(SCHEMA, facts, paths, (name, value) => keep(changeOf(name, value)));
  const on = (name: string) => () => void keepField(name as Path<DayFacts>);
  const unitOf: Partial<Record<Field, string>> = {
    temp_min: units.temp,
    temp_max: units.temp,
    solar_wh: "Wh",
    load_wh: "Wh",
    water: units.water,
  };
  return (
    <FormProvider {...form}>
      <Box display="grid" gap="3">
        {fields.includes("sky") && (
          <Toggles name="sky" options={SKIES} mark={(sky) => <SkyMark sky={sky} />} onKeep={on("sky")} />
        )}
        {fields.includes("place") && (
          <PlaceField name="place" words={where?.words} earlier={where?.earlier} onKeep={on("place")} />
        )}
        {fields.includes("panels_covered") && <Covered onKeep={on("panels_covered")} />}
        {fields.includes("status") && <Toggles name="status" options={STATUSES} onKeep={on("status")} />}
        <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3">
          {NUMBERS.filter((name) => fields.includes(name)).map((name) => (
            <NumberField key={name} name={name} label={labels[name]} unit={unitOf[name]} onKeep={on(name)} />
          ))}
          {sources.map((row) => (
            <NumberField
              key={row.id}
              name={`hours.${row.id}`}
              label={row.planned}
              unit="h"
              onKeep={on(`hours.${row.id}`)}
            />
          ))}
        </Grid>
        {fields.includes("note") && <NoteField name="note" onKeep={on("note")} />}
        <Problem error={form.formState.errors.root?.server?.message} />
      </Box>
    </FormProvider>
  );
};
