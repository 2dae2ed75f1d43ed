import { Box, Grid } from "@chakra-ui/react";
import { useFormContext, useWatch } from "react-hook-form";

import { CATALOGUE, choices, kindOf } from "../api/catalogue";
import { type AsText, ChoiceField, NumberField, ORNONE } from "../forms/fields";
import { Plain } from "../parts/Plain";
import { freshId, perCent, type RigDoc, shownIn } from "./fields";
import { PartList } from "./PartList";
import { Checks, Section, useAboard } from "./Section";

const NEW_INVERTER = { watts: 1000, surge_watts: null, idle_watts: 10, efficiency: 0.9, always_on: null };
const IS_ON: AsText = {
  text: (value) => (value ? "always" : "used"),
  value: (text) => (text === "always" ? true : null),
};
/** A load whose kind nobody told is another thing. */
const OR_OTHER: AsText = { text: (value) => (value as string | null) ?? "other", value: (text) => text };

export const Solar = () => (
  <PartList
    list="solar"
    title="Array"
    columns={[
      { key: "watts", label: "Nameplate", kind: "number", unit: "W" },
      { key: "tilt_deg", kind: "number", unit: "°" },
      { key: "azimuth_deg", kind: "number", unit: "°" },
      { key: "controller_amps", kind: "number", unit: "A" },
      { key: "horizon_deg", kind: "number" },
    ]}
    add={(taken) => ({
      id: freshId("array", taken),
      watts: 100,
      tilt_deg: 0,
      azimuth_deg: 180,
      controller_amps: null,
      horizon_deg: null,
    })}
  />
);

/** What else charges the bank; what it burns is in the user's own units. */
export const Sources = ({ cautions }: { cautions: string[] }) => {
  const { units } = useAboard();
  const stores = useWatch<RigDoc, "stores">({ name: "stores" });
  const tanks = stores.filter((store) => kindOf(store.kind).isFuel);
  const litres = shownIn("L", units);
  return (
    <>
      <PartList
        list="sources"
        title="Source"
        columns={[
          { key: "kind", kind: "choice", options: choices(CATALOGUE.sourceKinds) },
          { key: "amps", kind: "number", unit: "A" },
          { key: "fuel_store", kind: "choice", as: ORNONE, options: [["", "none"], ...choices(tanks)] },
          { key: "fuel_l_per_h", kind: "number", unit: `${litres.unit}/h`, shown: litres },
        ]}
        add={(taken) => ({
          id: freshId("source", taken),
          kind: "alternator",
          amps: 20,
          fuel_store: null,
          fuel_l_per_h: null,
        })}
      />
      <Box color="soft" fontSize="sm" mt="2">
        {cautions.join(" ")}
      </Box>
    </>
  );
};

export const Inverter = () => {
  const { setValue } = useFormContext<RigDoc>();
  const inverter = useWatch<RigDoc, "inverter">({ name: "inverter" });
  const set = (next: typeof inverter) => setValue("inverter", next, { shouldDirty: true });
  if (!inverter) return <Plain onClick={() => set(NEW_INVERTER)}>Add an inverter</Plain>;
  return (
    <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(6, 1fr)" }} gap="3" alignItems="start">
      <NumberField name="inverter.watts" label="Continuous" unit="W" />
      <NumberField name="inverter.surge_watts" unit="W" />
      <NumberField name="inverter.idle_watts" unit="W" />
      <NumberField name="inverter.efficiency" shown={perCent()} />
      <ChoiceField
        name="inverter.always_on"
        as={IS_ON}
        options={[
          ["used", "while it is used"],
          ["always", "all day"],
        ]}
      />
      <Plain size="sm" tone="warn" mt="6" onClick={() => set(null)}>
        Remove the inverter
      </Plain>
    </Grid>
  );
};

export const Loads = () => (
  <>
    <Checks place="loads" />
    <PartList
      list="loads"
      title="Load"
      columns={[
        { key: "name", kind: "text" },
        { key: "kind", kind: "choice", as: OR_OTHER, options: choices(CATALOGUE.loadKinds) },
        { key: "watts", label: "Draws", kind: "number", unit: "W" },
        { key: "hours_per_day", kind: "number", unit: "h a day" },
        { key: "via", kind: "choice", options: choices(CATALOGUE.via) },
        { key: "when", kind: "choice", options: choices(CATALOGUE.when) },
      ]}
      add={(taken) => ({
        id: freshId("load", taken),
        name: "New load",
        kind: null,
        watts: 10,
        hours_per_day: 1,
        via: "dc",
        when: "any",
      })}
    />
  </>
);

/** Arrays, other ways to charge, the inverter and what draws from the bank. */
export const Power = ({ cautions }: { cautions: string[] }) => (
  <>
    <Section title="Solar arrays">
      <Solar />
    </Section>
    <Section title="Other ways to charge">
      <Sources cautions={cautions} />
    </Section>
    <Section title="Inverter">
      <Checks place="inverter" />
      <Inverter />
    </Section>
    <Section title="Loads">
      <Loads />
    </Section>
  </>
);
