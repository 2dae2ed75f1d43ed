import { Box, HStack, NativeSelect } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { gaugesQuery } from "../api/queries";
import { useRig } from "../app/rig";
import { Plain } from "../parts/Plain";
import { KINDS, newStore, type StoreDoc } from "./fields";
import { Checks, type Edited } from "./Section";
import { StoreFields } from "./StoreFields";

/** What the store's gauge has been found to be worth. */
const GaugeFound = ({ found }: { found: Schemas["GaugeOut"] | undefined }) =>
  found ? (
    <Box fontSize="sm" mb="2">
      Gauge: {found.words.join(" ")}
    </Box>
  ) : null;

/** Every store with its lines, its checks and what its gauge is worth. */
export const Stores = ({ doc, units, checks, assumed, change }: Edited) => {
  const gauges = useQuery(gaugesQuery(useRig())).data ?? [];
  const [kind, setKind] = useState<StoreDoc["kind"]>("fresh");
  return (
    <>
      {doc.stores.map((store, index) => (
        <Box key={store.id} role="group" aria-label={store.name} mb="4">
          <Box fontWeight="600">{store.name}</Box>
          <Checks checks={checks} place={`stores.${store.id}`} />
          <GaugeFound found={gauges.find((gauge) => gauge.store === store.id)} />
          <StoreFields
            store={store}
            units={units}
            assumed={(name) => assumed(`stores.${store.id}.${name}`)}
            change={(next) => change({ ...doc, stores: doc.stores.map((each, at) => (at === index ? next : each)) })}
            remove={() => change({ ...doc, stores: doc.stores.filter((each) => each.id !== store.id) })}
          />
        </Box>
      ))}
      <HStack>
        <NativeSelect.Root width="12rem">
          <NativeSelect.Field
            aria-label="Kind of the new store"
            bg="raised"
            borderColor="edge"
            value={kind}
            onChange={(event) => setKind(event.target.value as StoreDoc["kind"])}
          >
            {KINDS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
        <Plain
          onClick={() =>
            change({
              ...doc,
              stores: [
                ...doc.stores,
                newStore(
                  kind,
                  doc.stores.map((store) => store.id),
                ),
              ],
            })
          }
        >
          Add a store
        </Plain>
      </HStack>
    </>
  );
};
