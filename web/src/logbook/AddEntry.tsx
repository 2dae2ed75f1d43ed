import { Box, HStack } from "@chakra-ui/react";
import { zodResolver } from "@hookform/resolvers/zod";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { FormProvider, useForm } from "react-hook-form";

import type { Schemas } from "../api/client";
import { roundQuery } from "../api/queries";
import { eventOf } from "../forms/events";
import { ChoiceField, NumberField, TextField } from "../forms/fields";
import { place } from "../forms/refusal";
import { given, needed, optional, text, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { useAdd } from "../outbox/writes";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { useUnsaved } from "../parts/unsaved";

interface Added {
  what: string;
  time: string;
  text: string;
  value: Typed;
}

const EMPTY: Added = { what: "", time: "12:00", text: "", value: null };
const TIME = z.string().check(z.regex(/^\d\d:\d\d$/, "Write a time, such as 20:15."));

/** A form is checked by what was chosen in it: a reading needs a text, an act what it asks for. */
const schemaOf = (act: Schemas["ActOut"] | undefined) =>
  z.object({
    what: text(),
    time: TIME,
    text: act ? z.string() : text(80),
    value:
      act && act.asks !== "nothing" && (act.asks !== "amount" || act.needs_amount)
        ? needed({ over: 0 })
        : optional({ over: 0 }),
  }) as unknown as z.ZodMiniType<Added, Added>;

/** Logs a reading or an event on an earlier day, such as a fill that was forgotten. */
export const AddEntry = ({ rig, date }: { rig: number; date: string }) => {
  const round = useQuery(roundQuery(rig)).data;
  const [stores, acts] = [round?.stores ?? [], round?.acts ?? []];
  const add = useAdd(rig);
  const [waits, setWaits] = useState(false);
  const form = useForm<Added>({
    defaultValues: EMPTY,
    resolver: (values, context, options) =>
      zodResolver(schemaOf(acts.find((each) => each.label === values.what)))(values, context, options),
  });
  const what = form.watch("what");
  const act = acts.find((each) => each.label === what);
  const store = stores.find((each) => each.id === what);
  useUnsaved(what !== "" && form.formState.isDirty && (form.watch("text") !== "" || form.watch("value") !== null));
  const send = form.handleSubmit(async (added) => {
    const entry: Schemas["EntryIn"] = act
      ? { event: eventOf(act, given(added.value)) }
      : { reading: { store: added.what, text: added.text } };
    try {
      const words = act ? act.label : `${store?.name ?? added.what} ${added.text}`;
      const done = await add.mutateAsync({ entry: { ...entry, on: date, time: added.time }, words });
      setWaits(done.waits);
      form.reset({ ...EMPTY, what: added.what, time: added.time });
    } catch (error) {
      place(error, ["text", "value", "time"], form.setError);
    }
  });
  const options = [
    ["", "Add to this day ..."] as const,
    ...stores.map((each) => [each.id, `Reading of ${each.name}`] as const),
    ...acts.map((each) => [each.label, each.label] as const),
  ];
  return (
    <FormProvider {...form}>
      <Box asChild mt="2">
        <form noValidate onSubmit={(event) => void send(event)}>
          <HStack wrap="wrap" align="end">
            <Box width="14rem">
              <ChoiceField name="what" label="What to add" options={options} onChoose={() => form.clearErrors()} />
            </Box>
            {what !== "" && (
              <>
                <Box width="8rem">
                  <TextField name="time" type="time" />
                </Box>
                {act && act.asks !== "nothing" && (
                  <Box width="9rem">
                    <NumberField
                      name="value"
                      label={act.asks === "amount" ? "Amount" : act.asks === "hours" ? "Hours" : "How often"}
                      unit={act.asks === "count" ? undefined : (act.unit ?? undefined)}
                    />
                  </Box>
                )}
                {store && (
                  <Box width="9rem">
                    <TextField name="text" placeholder={store.example} />
                  </Box>
                )}
                <Plain type="submit" tone="strong" disabled={form.formState.isSubmitting}>
                  Add
                </Plain>
              </>
            )}
          </HStack>
          <Problem error={form.formState.errors.root?.server?.message} />
          {waits && <Box role="status">Kept on this device; it is sent when there is a signal.</Box>}
        </form>
      </Box>
    </FormProvider>
  );
};
