import { Box, Flex } from "@chakra-ui/react";

import { useAsk } from "../api/asked";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { ChoiceField, NumberField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { given, needed, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];
type Ask = Fuel["asks"][number];

interface Asked {
  appliance: string;
  by: string;
  hours: Typed;
  night: Typed;
  litres: Typed;
}

const HOW: Record<string, string> = { hours: "for so long", night: "all night", litres: "for hot water" };
const MINUTES = 60;
type How = "hours" | "night" | "litres";
const ASKED = { hours: needed({ over: 0 }), night: needed(), litres: needed({ over: 0 }) };

/** What an evening of oven, a night of heating or three showers take, and what is left. */
export const CanIBurn = ({ fuel }: { fuel: Fuel }) => {
  const [first] = fuel.asks;
  return first ? (
    <Asking fuel={fuel} first={first} />
  ) : (
    <Box color="soft">List what burns on the Rig view, and it can be asked here.</Box>
  );
};

const Asking = ({ fuel, first }: { fuel: Fuel; first: Ask }) => {
  const of = (id: string) => fuel.asks.find((each) => each.id === id) ?? first;
  const howOf = ({ appliance, by }: Pick<Asked, "appliance" | "by">) =>
    (of(appliance).by.includes(by) ? by : "hours") as How;
  const ask = useAsk(useRig(), "post", "/fuel/run");
  const usual = (each: Ask) => ({ hours: each.minutes, night: fuel.ask_night, litres: fuel.ask_litres });
  const draft = useDraft<Asked>({
    // what is not shown need not be filled in
    schema: (typed: Asked) => z.looseObject({ [howOf(typed)]: ASKED[howOf(typed)] }),
    values: { appliance: first.id, by: "hours", ...usual(first) },
    send: (typed) => {
      const how = howOf(typed);
      const value = given(typed[how]) ?? 0;
      return ask.mutateAsync({ appliance: typed.appliance, [how]: how === "hours" ? value / MINUTES : value });
    },
    holds: false,
  });
  const { form } = draft;
  const [id, by] = form.watch(["appliance", "by"]);
  const appliance = of(id);
  const how = howOf({ appliance: id, by });
  const choose = (chosen: string) => form.reset({ ...form.getValues(), appliance: chosen, ...usual(of(chosen)) });
  return (
    <Box>
      <DraftForm of={draft} onChange={() => ask.reset()}>
        <Flex gap="3" wrap="wrap" align="end">
          <ChoiceField
            name="appliance"
            label="Appliance"
            options={fuel.asks.map((each) => [each.id, each.name] as const)}
            onChoose={choose}
          />
          {!appliance.first && (
            <>
              {appliance.by.length > 1 && (
                <ChoiceField
                  name="by"
                  label="How"
                  options={appliance.by.map((each) => [each, HOW[each] ?? each] as const)}
                />
              )}
              <Box width="9rem">
                {how === "hours" && <NumberField name="hours" label="Minutes" reads="min" />}
                {how === "night" && <NumberField name="night" label="Outside" unit={fuel.temp_unit} />}
                {how === "litres" && <NumberField name="litres" label="Hot water" unit={fuel.volume_unit} />}
              </Box>
              <Plain type="submit" tone="strong" disabled={form.formState.isSubmitting}>
                Can I run it?
              </Plain>
            </>
          )}
        </Flex>
        {appliance.first && <Box mt="2">{appliance.first}</Box>}
      </DraftForm>
      {ask.data && (
        <Box aria-live="polite" data-part="burn-answer" mt="3">
          {ask.data.words.map((line, index) => (
            <Box
              key={line}
              fontWeight={index === 0 ? 600 : undefined}
              color={index === 0 && ask.data.answer === "no" ? "warn" : "ink"}
            >
              {line}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
};
