import { Box, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useFieldArray, useFormContext } from "react-hook-form";

import { CATALOGUE, choices } from "../api/catalogue";
import { gaugesQuery } from "../api/queries";
import { useRig } from "../api/rig";
import { Select } from "../parts/Choose";
import { Plain } from "../parts/Plain";
import { newStore, type RigDoc, type StoreDoc } from "./fields";
import { Checks } from "./Section";
import { StoreFields } from "./StoreFields";

/** Every store with its lines, its checks and what its gauge is worth. */
export const Stores = () => {
  const { control } = useFormContext<RigDoc>();
  const { fields, append, remove } = useFieldArray({ control, name: "stores", keyName: "key" });
  const gauges = useQuery(gaugesQuery(useRig())).data ?? [];
  const [kind, setKind] = useState<StoreDoc["kind"]>("fresh");
  const add = () =>
    append(
      newStore(
        kind,
        fields.map((store) => store.id),
      ),
    );
  return (
    <>
      {fields.map((store, index) => {
        const learned = gauges.find((gauge) => gauge.store === store.id);
        return (
          <Box key={store.key} role="group" aria-label={store.name} mb="4">
            <Box fontWeight="600">{store.name}</Box>
            <Checks place={`stores.${store.id}`} />
            {learned && (
              <Box fontSize="sm" mb="2">
                Gauge: {learned.words.join(" ")}
              </Box>
            )}
            <StoreFields index={index} remove={() => remove(index)} />
          </Box>
        );
      })}
      <HStack>
        <Select
          aria-label="Kind of the new store"
          width="12rem"
          value={kind}
          onChange={(event) => setKind(event.target.value as StoreDoc["kind"])}
          options={choices(CATALOGUE.storeKinds)}
        />
        <Plain onClick={add}>Add a store</Plain>
      </HStack>
    </>
  );
};
