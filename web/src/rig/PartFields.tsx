import { Box, Grid } from "@chakra-ui/react";
import { useFormContext, useWatch } from "react-hook-form";

import { CATALOGUE, choices } from "../api/catalogue";
import { kindOf } from "../api/catalogue";
import { type AsText, ChoiceField, NumberField, ORNONE, TextField } from "../forms/fields";
import { ZoneField } from "../forms/ZoneField";
import { perCent, type RigDoc, shownIn } from "../forms/rig";
import { Plain } from "../parts/Plain";
import type { List } from "./parts";
import { useAboard } from "./Section";

const IS_ON: AsText = {
  text: (value) => (value ? "always" : "used"),
  value: (text) => (text === "always" ? true : null),
};
/** A load whose kind nobody told is another thing. */
const OR_OTHER: AsText = { text: (value) => (value as string | null) ?? "other", value: (text) => text };

/** What changes over: as a rule it stays on what it burns. */
const ON_FUEL: AsText = {
  text: (value) => (value as string | null) ?? "fuel",
  value: (text) => (text === "fuel" ? null : text),
};

const columns = { base: "1fr 1fr", md: "repeat(3, 1fr)" };

/** Which battery it hangs on, where there is a choice. */
const OnBattery = ({ at, label }: { at: string; label: string }) => {
  const batteries = useWatch<RigDoc, "stores">({ name: "stores" }).filter((store) => kindOf(store.kind).isBank);
  if (batteries.length < 2) return null;
  return (
    <ChoiceField name={`${at}.bank`} label={label} as={ORNONE} options={[["", "the house's"], ...choices(batteries)]} />
  );
};

const Array = ({ at }: { at: string }) => (
  <>
    <NumberField name={`${at}.watts`} label="Nameplate" unit="W" />
    <NumberField name={`${at}.tilt_deg`} unit="°" />
    <NumberField name={`${at}.azimuth_deg`} unit="°" />
    <NumberField name={`${at}.controller_amps`} unit="A" />
    <NumberField name={`${at}.horizon_deg`} />
    <OnBattery at={at} label="Charges" />
  </>
);

/** What else charges the bank; what it burns is in the user's own units. */
const Source = ({ at }: { at: string }) => {
  const { units, cautions } = useAboard();
  const stores = useWatch<RigDoc, "stores">({ name: "stores" });
  const tanks = stores.filter((store) => kindOf(store.kind).isFuel);
  const litres = shownIn("L", units);
  const kind = useWatch<RigDoc>({ name: `${at}.kind` as "name" }) as unknown as string;
  return (
    <>
      <ChoiceField name={`${at}.kind`} options={choices(CATALOGUE.sourceKinds)} />
      <NumberField name={`${at}.amps`} unit="A" />
      <OnBattery at={at} label="Charges" />
      <ChoiceField name={`${at}.fuel_store`} as={ORNONE} options={[["", "none"], ...choices(tanks)]} />
      <NumberField name={`${at}.fuel_l_per_h`} unit={`${litres.unit}/h`} shown={litres} />
      {kind === "generator" && (
        <>
          <NumberField name={`${at}.idle_l_per_h`} unit={`${litres.unit}/h`} shown={litres} />
          <NumberField name={`${at}.full_l_per_h`} unit={`${litres.unit}/h`} shown={litres} />
          <NumberField name={`${at}.rated_w`} unit="W" note="with full load: it burns by its load" />
          <NumberField name={`${at}.oil_hours`} unit="h" />
        </>
      )}
      <Box color="soft" fontSize="sm" gridColumn="1 / -1">
        {cautions.join(" ")}
      </Box>
    </>
  );
};

const Load = ({ at }: { at: string }) => (
  <>
    <TextField name={`${at}.name`} />
    <ChoiceField name={`${at}.kind`} as={OR_OTHER} options={choices(CATALOGUE.loadKinds)} />
    <NumberField name={`${at}.watts`} label="Draws" unit="W" />
    <NumberField name={`${at}.hours_per_day`} unit="h a day" />
    <ChoiceField name={`${at}.via`} options={choices(CATALOGUE.via)} />
    <ChoiceField name={`${at}.when`} options={choices(CATALOGUE.when)} />
    <OnBattery at={at} label="Draws from" />
  </>
);

/** What burns gas or fuel; without kW and hours those that its kind usually has stand in. */
const Burner = ({ at }: { at: string }) => {
  const stores = useWatch<RigDoc, "stores">({ name: "stores" });
  const kind = useWatch<RigDoc>({ name: `${at}.kind` as "name" }) as unknown as string;
  const row = CATALOGUE.applianceKinds.find((each) => each.id === kind);
  // a stove burns what is carried in kilos or logs, all else gas or fuel
  const tanks = stores.filter((store) => (row?.solid ? store.kwh_per_unit : kindOf(store.kind).contents.length > 0));
  return (
    <>
      <TextField name={`${at}.name`} />
      <ChoiceField name={`${at}.kind`} options={choices(CATALOGUE.applianceKinds)} />
      <ChoiceField name={`${at}.store`} label="Burns from" options={choices(tanks)} />
      <NumberField name={`${at}.kw`} unit="kW" note="empty: as usual" />
      <NumberField name={`${at}.hours_per_day`} unit="h a day" note="a heater: on a day of frost; empty: as usual" />
      <NumberField name={`${at}.watts`} label="Draws from the bank" unit="W" note="fan, pump; 0: nothing" />
      <NumberField name={`${at}.lowest_kw`} unit="kW" note="empty: it goes off and on" />
      <NumberField name={`${at}.efficiency`} shown={perCent()} note="empty: as usual" />
      {row?.changesOver && (
        <>
          <ChoiceField name={`${at}.driving_on`} as={ON_FUEL} options={choices(CATALOGUE.feeds)} />
          <ChoiceField name={`${at}.plugged_on`} as={ON_FUEL} options={choices(CATALOGUE.feeds)} />
        </>
      )}
    </>
  );
};

const FIELDS = { solar: Array, sources: Source, loads: Load, appliances: Burner };

/** The fields of an array, a source or a load. */
export const PartFields = ({
  list,
  index,
  name,
  remove,
}: {
  list: Exclude<List, "stores">;
  index: number;
  name: string;
  remove: () => void;
}) => {
  const Fields = FIELDS[list];
  return (
    <>
      <Grid templateColumns={columns} gap="3" alignItems="start">
        <Fields at={`${list}.${index}`} />
      </Grid>
      <Plain size="sm" tone="warn" mt="2" onClick={remove}>
        Remove {name}
      </Plain>
    </>
  );
};

export const InverterFields = ({ remove }: { remove: () => void }) => (
  <>
    <Grid templateColumns={columns} gap="3" alignItems="start">
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
    </Grid>
    <Plain size="sm" tone="warn" mt="2" onClick={remove}>
      Remove the inverter
    </Plain>
  </>
);

export const CrewFields = () => {
  useFormContext<RigDoc>();
  return (
    <Grid templateColumns={columns} gap="3" alignItems="start">
      <TextField name="name" label="Name of the rig" />
      <ZoneField name="timezone" />
      <ChoiceField name="units" options={choices(CATALOGUE.systems)} />
      <NumberField name="crew.adults" />
      <NumberField name="crew.children" />
      <NumberField name="crew.pets" />
    </Grid>
  );
};
