import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useDid } from "../forms/did";
import { CheckField, NumberField } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { DraftForm, useDraft } from "../forms/form";
import type { StoreDoc } from "../forms/rig";
import { RigPart } from "../forms/RigPart";
import { given, needed, schemaOf, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];

/** Days without supply that the crew wants to sit out, and whether the way to the pump is the line. */
const Buffers = ({ fuel }: { fuel: Fuel }) => (
  <RigPart<{ stores: StoreDoc[] }>
    open="Days to sit out without supply"
    save="Save what must stay"
    about="stores"
    schema={(units) => z.object({ stores: schemaOf(FIELDS.rig.of.stores, units) })}
    read={({ doc }) => ({ stores: doc.stores })}
    write={({ stores }, doc) => ({
      ...doc,
      stores: doc.stores.map((store) => {
        const typed = stores.find((each) => each.id === store.id);
        return { ...store, buffer_days: typed?.buffer_days || null, by_pump: typed?.by_pump ?? null };
      }),
    })}
  >
    {({ doc }) =>
      doc.stores.map((store, index) => {
        const stay = fuel.stays.find((each) => each.store === store.id);
        return stay ? (
          <Flex key={store.id} gap="3" wrap="wrap" align="end" mb="2" role="group" aria-label={stay.name}>
            <Box width="18rem">
              <NumberField
                name={`stores.${index}.buffer_days`}
                label={`${stay.name}: days without supply to sit out`}
              />
            </Box>
            {stay.asks_pump && (
              <CheckField name={`stores.${index}.by_pump`} label="the way to the next pump is its line" />
            )}
          </Flex>
        ) : null;
      })
    }
  </RigPart>
);

const ODOMETER = z.object({ distance: needed({ over: 0 }) });

/** The odometer as it stands: the way between two readings is known, whatever was logged of drives. */
const Odometer = ({ fuel }: { fuel: Fuel }) => {
  const { log, said } = useDid(useRig());
  const draft = useDraft<{ distance: Typed }>({
    schema: ODOMETER,
    values: { distance: null },
    send: async ({ distance }, form) => {
      const shown = given(distance) ?? 0;
      await log(`Odometer ${shown} ${fuel.distance_unit}`, { type: "odometer", full: false, distance: shown });
      form.reset();
    },
  });
  return (
    <Box mt="2">
      <DraftForm of={draft}>
        <Flex gap="2" align="end">
          <Box width="11rem">
            <NumberField name="distance" label="Odometer" unit={fuel.distance_unit} />
          </Box>
          <Plain type="submit" disabled={draft.form.formState.isSubmitting}>
            Log it
          </Plain>
        </Flex>
      </DraftForm>
      {said}
    </Box>
  );
};

/** What must stay in each store, how far one gets above it, and how far a litre goes. */
export const MustStay = ({ fuel }: { fuel: Fuel }) => {
  const { writes } = useRole();
  return (
    <Box>
      {fuel.range && <Box fontWeight="600">{fuel.range}</Box>}
      {fuel.stays.map((stay) => (
        <Box key={stay.store} mb="1">
          {stay.words}
        </Box>
      ))}
      {fuel.ways.map((way) => (
        <Box key={way}>{way}</Box>
      ))}
      {fuel.stays.length > 0 && <Buffers fuel={fuel} />}
      {writes && fuel.ways.length > 0 && <Odometer fuel={fuel} />}
    </Box>
  );
};
