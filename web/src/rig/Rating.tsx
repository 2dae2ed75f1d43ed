import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { FormProvider, useFormContext } from "react-hook-form";

import { useAsk } from "../api/asked";
import { CATALOGUE, choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { ChoiceField, NumberField } from "../forms/fields";
import { useDraft } from "../forms/form";
import type { RigDoc } from "../forms/rig";
import { given, needed, optional, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

interface Rated {
  amount: Typed;
  unit: Schemas["RatingIn"]["unit"];
  cell_v: Typed;
}

const SCHEMA = z.object({
  amount: needed({ over: 0 }),
  unit: z.string(),
  cell_v: optional({ over: 0 }),
});
const AT_CELLS = ["mAh", "Ah"];
const USUAL_CELL_V = 3.7;

const Asking = ({ at, nominal }: { at: `stores.${number}`; nominal: number | null | undefined }) => {
  const rig = useFormContext<RigDoc>();
  const ask = useAsk(useRig(), "post", "/rating");
  const { form, submit } = useDraft<Rated>({
    schema: SCHEMA,
    values: { amount: null, unit: "Wh", cell_v: USUAL_CELL_V },
    send: async ({ amount, unit, cell_v }) => {
      const cell = AT_CELLS.includes(unit) ? given(cell_v) : null;
      const rated = await ask.mutateAsync({ amount: given(amount) ?? 0, unit, nominal_v: nominal ?? 12, cell_v: cell });
      rig.setValue(`${at}.capacity`, rated.capacity_ah, { shouldDirty: true });
    },
    holds: false,
  });
  const atCells = AT_CELLS.includes(form.watch("unit"));
  return (
    <FormProvider {...form}>
      <Box gridColumn="1 / -1">
        <Flex gap="3" align="start" wrap="wrap">
          <NumberField name="amount" label="Rated" />
          <ChoiceField name="unit" label="In" options={choices(CATALOGUE.ratingUnits)} />
          {atCells && <NumberField name="cell_v" unit="V" />}
          <Plain mt="6" disabled={form.formState.isSubmitting} onClick={() => void submit()}>
            Take it as the capacity
          </Plain>
        </Flex>
        <Problem error={form.formState.errors.root?.server?.message} />
        {ask.data && <Box mt="1">{ask.data.words}</Box>}
      </Box>
    </FormProvider>
  );
};

/** A power station in Wh or a power bank in mAh at its cells' volts, as amp-hours at the bank's own volts. */
export const Rating = (props: { at: `stores.${number}`; nominal: number | null | undefined }) => {
  const [open, setOpen] = useState(false);
  if (open) return <Asking {...props} />;
  return (
    <Box alignSelf="end">
      <Plain onClick={() => setOpen(true)}>It is rated in Wh or mAh</Plain>
    </Box>
  );
};
