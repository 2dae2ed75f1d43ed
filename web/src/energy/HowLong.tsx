import { Box, Grid } from "@chakra-ui/react";

import { ofBank, useAsk } from "../api/asked";
import { choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { ChoiceField, NumberField, TextField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { given, needed, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { Plain } from "../parts/Plain";

interface Asked {
  source: string;
  target: Typed;
  until: string;
}

const SCHEMA = z.object({
  source: z.string(),
  target: needed({ over: 0, most: 100 }),
  until: z.string().check(z.minLength(1, "Choose a date.")),
});

const Answer = ({ answer }: { answer: Schemas["ChargeOut"] }) => (
  <Box aria-live="polite" mt="3" data-part="charge">
    <Box as="ul" pl="5" listStyleType="disc">
      {answer.plans.map((plan) => (
        <Box as="li" key={plan}>
          {plan}
        </Box>
      ))}
      <Box as="li" fontWeight="600">
        {answer.sun}
      </Box>
    </Box>
    <Box color="soft" fontSize="sm" mt="2">
      {answer.cautions.join(" ")}
    </Box>
  </Box>
);

/** Hours of engine, hookup or generator to a level, or to hold through a date. */
export const HowLong = ({ energy, bank }: { energy: Schemas["EnergyOut"]; bank: string | null }) => {
  const ask = useAsk(useRig(), "post", "/energy/charge", (body: Schemas["ChargeIn"]) => ({
    query: ofBank(bank),
    body,
  }));
  const draft = useDraft<Asked>({
    schema: SCHEMA,
    values: { source: energy.sources[0]?.id ?? "", target: 90, until: energy.hold_usual },
    send: (asked) => ask.mutateAsync({ ...asked, target: given(asked.target) ?? 0 }),
    holds: false,
  });
  if (energy.sources.length === 0)
    return <Box color="soft">No engine, hookup or generator charges this bank. Add one on the Rig view.</Box>;
  return (
    <>
      <DraftForm of={draft} onChange={() => ask.reset()}>
        <Grid templateColumns={{ base: "1fr 1fr", md: "2fr 1fr 1fr" }} gap="3" alignItems="start">
          <ChoiceField name="source" label="By" options={choices(energy.sources)} />
          <NumberField name="target" label="To" unit="%" />
          <TextField
            name="until"
            label="Or to hold through"
            type="date"
            min={energy.hold_least}
            max={energy.hold_most}
          />
          <Plain type="submit" tone="strong" disabled={draft.form.formState.isSubmitting}>
            How long?
          </Plain>
        </Grid>
      </DraftForm>
      {ask.data && <Answer answer={ask.data} />}
    </>
  );
};
