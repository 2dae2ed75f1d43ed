import { Box, Grid } from "@chakra-ui/react";

import { ofBank, useAsk } from "../api/asked";
import { CATALOGUE, choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { ChoiceField, NumberField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { given, needed, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { Plain } from "../parts/Plain";

type Energy = Schemas["EnergyOut"];
type Appliance = Schemas["ApplianceOut"];

interface Asked {
  appliance: string;
  watts: Typed;
  minutes: Typed;
  start: string;
  via: string;
}

const SCHEMA = z.object({
  appliance: z.string(),
  watts: needed({ over: 0, most: 20_000 }),
  minutes: needed({ over: 0, most: 1440 }),
  start: z.string(),
  via: z.string(),
});

const Lines = ({ lines }: { lines: string[] }) => (
  <Box as="ul" pl="5" listStyleType="disc">
    {lines.map((line) => (
      <Box as="li" key={line}>
        {line}
      </Box>
    ))}
  </Box>
);

const Answer = ({ verdict }: { verdict: Schemas["VerdictOut"] }) => (
  <Box aria-live="polite" data-part="verdict">
    <Box fontFamily="heading" fontSize="xl" fontWeight="600" color={verdict.answer === "no" ? "warn" : "ink"} mt="3">
      {verdict.headline}
    </Box>
    <Box mb="2">{verdict.words}</Box>
    <Lines lines={verdict.why} />
    {verdict.ways.length > 0 && (
      <>
        <Box fontWeight="600" mt="2">
          What would make it possible
        </Box>
        <Lines lines={verdict.ways} />
      </>
    )}
    <Box color="soft" fontSize="sm" mt="2">
      {verdict.cautions.join(" ")}
    </Box>
  </Box>
);

/** The question as it is sent; a start is chosen as a local date and time in one word. */
const bodyOf = (asked: Asked, appliance: Appliance | undefined): Schemas["RunIn"] => {
  const [on, time] = asked.start.split(" ");
  return {
    watts: given(asked.watts) ?? 0,
    minutes: given(asked.minutes) ?? 0,
    via: asked.via as Schemas["RunIn"]["via"],
    surge: appliance?.surge ?? 1,
    heats: appliance?.heats ?? false,
    ...(on && time ? { on, time } : {}),
  };
};

/** Any appliance: what it asks of inverter, cable and bank, and what it does to the next low. */
export const CanIRun = ({ energy, bank }: { energy: Energy; bank: string | null }) => {
  const ask = useAsk(useRig(), "post", "/energy/run", (body: Schemas["RunIn"]) => ({ query: ofBank(bank), body }));
  const [first] = energy.appliances;
  const draft = useDraft<Asked>({
    schema: SCHEMA,
    values: {
      appliance: first?.id ?? "",
      watts: first?.watts ?? null,
      minutes: first?.minutes ?? null,
      start: "",
      via: first?.via ?? "inverter",
    },
    send: (asked) =>
      ask.mutateAsync(
        bodyOf(
          asked,
          energy.appliances.find((each) => each.id === asked.appliance),
        ),
      ),
    holds: false,
  });
  const { form } = draft;
  const choose = (id: string) => {
    const appliance = energy.appliances.find((each) => each.id === id);
    if (!appliance) return;
    form.reset({
      ...form.getValues(),
      appliance: id,
      watts: appliance.watts,
      minutes: appliance.minutes,
      via: appliance.via,
    });
  };
  return (
    <>
      <DraftForm of={draft} onChange={() => ask.reset()}>
        <Grid templateColumns={{ base: "1fr 1fr", md: "2fr 1fr 1fr" }} gap="3" alignItems="start">
          <ChoiceField name="appliance" label="Appliance" options={choices(energy.appliances)} onChoose={choose} />
          <NumberField name="watts" label="Draws" unit="W" />
          <NumberField name="minutes" label="For" unit="min" />
          <ChoiceField name="start" options={[["", "now"], ...choices(energy.starts)]} />
          <ChoiceField name="via" options={choices(CATALOGUE.via)} />
          <Plain type="submit" tone="strong" alignSelf="end" disabled={form.formState.isSubmitting}>
            Can I run it?
          </Plain>
        </Grid>
      </DraftForm>
      {ask.data && <Answer verdict={ask.data} />}
    </>
  );
};
