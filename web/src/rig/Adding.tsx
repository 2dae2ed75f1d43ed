import { Box, HStack } from "@chakra-ui/react";
import { useState } from "react";
import { type UseFormReturn, useWatch } from "react-hook-form";

import { CATALOGUE, choices, kindOf } from "../api/catalogue";
import { freshId, newStore, type RigDoc, type StoreDoc } from "../forms/rig";
import { Select } from "../parts/Choose";
import { Plain } from "../parts/Plain";
import type { List } from "./parts";

const NEW_INVERTER = { watts: 1000, surge_watts: null, idle_watts: 10, efficiency: 0.9, always_on: null };

type Listed = Exclude<List, "stores">;

const NEW: Record<Listed, (taken: string[]) => { id: string }> = {
  solar: (taken) => ({
    id: freshId("array", taken),
    watts: 100,
    tilt_deg: 0,
    azimuth_deg: 180,
    controller_amps: null,
    horizon_deg: null,
  }),
  sources: (taken) => ({
    id: freshId("source", taken),
    kind: "alternator",
    amps: 20,
    fuel_store: null,
    fuel_l_per_h: null,
  }),
  loads: (taken) => ({
    id: freshId("load", taken),
    name: "New load",
    kind: null,
    watts: 10,
    hours_per_day: 1,
    via: "dc",
    when: "any",
  }),
  appliances: (taken) => ({ id: freshId("burner", taken), ...NEW_BURNER, store: "" }),
};
const NEW_BURNER = { name: "Cooker", kind: "cooker", kw: null, hours_per_day: null };
const ADD: [Listed, string][] = [
  ["solar", "Add an array"],
  ["sources", "Add a way to charge"],
  ["loads", "Add a load"],
];

/** What else can come aboard. */
export const Adding = ({ form, open }: { form: UseFormReturn<RigDoc>; open: (place: string) => void }) => {
  const inverter = useWatch({ control: form.control, name: "inverter" });
  const tank = useWatch({ control: form.control, name: "stores" }).find(
    (store) => kindOf(store.kind).contents.length > 0,
  );
  const add = (list: Listed) => {
    const there = (form.getValues(list) ?? []) as { id: string }[];
    const fresh = NEW[list](there.map((each) => each.id));
    const made = list === "appliances" ? { ...fresh, store: tank?.id ?? "" } : fresh;
    form.setValue(list, [...there, made] as never, { shouldDirty: true });
    open(`${list}.${made.id}`);
  };
  return (
    <HStack wrap="wrap" mt="2">
      {ADD.map(([list, words]) => (
        <Plain key={list} size="sm" onClick={() => add(list)}>
          {words}
        </Plain>
      ))}
      {tank && (
        <Plain size="sm" onClick={() => add("appliances")}>
          Add what burns gas or fuel
        </Plain>
      )}
      {!inverter && (
        <Plain
          size="sm"
          onClick={() => {
            form.setValue("inverter", NEW_INVERTER, { shouldDirty: true });
            open("inverter");
          }}
        >
          Add an inverter
        </Plain>
      )}
    </HStack>
  );
};

/** Rubbish, recycling, laundry, food and what a toilet needs: each aboard by one touch. */
export const AddSupplies = ({ form, open }: { form: UseFormReturn<RigDoc>; open: (place: string) => void }) => {
  const stores = useWatch({ control: form.control, name: "stores" });
  const add = (preset: (typeof CATALOGUE.supplies)[number]) => {
    const { name, unit, sense, capacity, kwhPerUnit } = preset;
    const id = freshId(
      preset.id,
      stores.map((store) => store.id),
    );
    const made: StoreDoc = { ...newStore("supply", []), id, name, unit, sense, capacity, kwh_per_unit: kwhPerUnit };
    form.setValue("stores", [...stores, made], { shouldDirty: true });
    open(`stores.${id}`);
  };
  return (
    <HStack mt="2" wrap="wrap" role="group" aria-label="Add a supply">
      <Box color="soft" fontSize="sm">
        By one touch:
      </Box>
      {CATALOGUE.supplies.map((preset) => (
        <Plain key={preset.id} size="sm" onClick={() => add(preset)}>
          {preset.name}
        </Plain>
      ))}
    </HStack>
  );
};

export const AddStore = ({ form, open }: { form: UseFormReturn<RigDoc>; open: (place: string) => void }) => {
  const [kind, setKind] = useState<StoreDoc["kind"]>("fresh");
  const add = () => {
    const there = form.getValues("stores");
    const made = newStore(
      kind,
      there.map((store) => store.id),
    );
    form.setValue("stores", [...there, made], { shouldDirty: true });
    open(`stores.${made.id}`);
  };
  return (
    <HStack mt="2" wrap="wrap">
      <Select
        aria-label="Kind of the new store"
        width="11rem"
        value={kind}
        onChange={(event) => setKind(event.target.value as StoreDoc["kind"])}
        options={choices(CATALOGUE.storeKinds)}
      />
      <Plain size="sm" onClick={add}>
        Add a store
      </Plain>
    </HStack>
  );
};
