import { Box, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { eventOf } from "../forms/events";
import { ChoiceField, NumberField, TextField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { given, needed, optional, text, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { useAdd } from "../outbox/writes";
import { Plain } from "../parts/Plain";

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
  });

/** Logs a reading or an event on an earlier day, such as a fill that was forgotten. */
export const AddEntry = ({ rig, date }: { rig: number; date: string }) => {
  const round = useQuery(get(rig, "/round")).data;
  const [stores, acts] = [round?.stores ?? [], round?.acts ?? []];
  const add = useAdd(rig);
  const [waits, setWaits] = useState(false);
  const actOf = (what: string) => acts.find((each) => each.label === what);
  const storeOf = (what: string) => stores.find((each) => each.id === what);
  const draft = useDraft<Added>({
    schema: (typed: Added) => schemaOf(actOf(typed.what)),
    values: EMPTY,
    send: async (added, form) => {
      const chosen = actOf(added.what);
      const entry: Schemas["EntryIn"] = chosen
        ? { event: eventOf(chosen, given(added.value)) }
        : { reading: { store: added.what, text: added.text } };
      const words = chosen ? chosen.label : `${storeOf(added.what)?.name ?? added.what} ${added.text}`;
      const done = await add.mutateAsync({ entry: { ...entry, on: date, time: added.time }, words });
      setWaits(done.waits);
      form.reset({ ...EMPTY, what: added.what, time: added.time });
    },
    holds: ({ text, value }) => text !== "" || value !== null,
    mode: "onSubmit",
  });
  const { form } = draft;
  const what = form.watch("what");
  const [act, store] = [actOf(what), storeOf(what)];
  const options = [
    ["", "Add to this day ..."] as const,
    ...stores.map((each) => [each.id, `Reading of ${each.name}`] as const),
    ...acts.map((each) => [each.label, each.label] as const),
  ];
  return (
    <Box mt="2">
      <DraftForm of={draft}>
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
      </DraftForm>
      {waits && <Box role="status">Kept on this device; it is sent when there is a signal.</Box>}
    </Box>
  );
};
