import { Box, HStack } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { corrected, mayBeLeftOut, type Value, valuesOf } from "../forms/events";
import { NumberField, TextField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { given, needed, optional, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { WhichTime } from "../forms/WhichTime";
import { waitsFor } from "../outbox/waiting";
import { useCorrect, useRemove } from "../outbox/writes";
import { useWaiting } from "../outbox/writing";
import { Problem } from "../parts/Notice";
import { useOnce } from "../parts/once";
import { Plain } from "../parts/Plain";
import { clockWords } from "../parts/words";

type Entry = Schemas["EntryOut"];
type Event = Schemas["EventIn"];
type Corrected = { text: string; time: string } & Partial<Record<Value, Typed>>;

/** A reading that is left empty keeps what it says; then its time alone is moved. */
const schemaOf = (event: Event | null | undefined, values: Value[]) => {
  const number = (name: Value) => (event && mayBeLeftOut(event, name) ? optional({ over: 0 }) : needed({ over: 0 }));
  return z.object({
    text: z.string().check(z.maxLength(80, "Write at most 80 letters.")),
    time: z.string().check(z.regex(/^\d\d:\d\d$/, "Write a time, such as 20:15.")),
    ...Object.fromEntries(values.map((name) => [name, number(name)])),
  });
};

const bodyOf = (entry: Entry, values: Value[], typed: Corrected): Schemas["EntryIn"] => {
  // a time that was not touched stays as exact as it was
  const when: { on?: string; time?: string } =
    typed.time === entry.at.time ? {} : { on: entry.at.date, time: typed.time };
  if (!entry.event && typed.text.trim() === "") return when;
  if (!entry.event) return { reading: { store: entry.store ?? "", text: typed.text }, ...when };
  const numbers = Object.fromEntries(values.map((name) => [name, given(typed[name])]));
  return { event: corrected(entry.event, numbers), ...when };
};

const Correction = ({ rig, entry, saw, close }: { rig: number; entry: Entry; saw: number; close: () => void }) => {
  const { event } = entry;
  const values = event ? valuesOf(event) : [];
  const correct = useCorrect(rig, saw);
  const draft = useDraft<Corrected>({
    schema: schemaOf(event, values),
    values: {
      text: "",
      time: entry.at.time,
      ...Object.fromEntries(values.map((name) => [name, event?.[name] ?? null])),
    },
    send: async (typed) => {
      await correct.mutateAsync({ entry, to: bodyOf(entry, values, typed) });
      close();
    },
  });
  return (
    <Box bg="sunken" p="3" borderRadius="md" my="1">
      <DraftForm of={draft}>
        <HStack wrap="wrap" align="end">
          {!event && (
            <Box width="10rem">
              <TextField name="text" label="Right reading" note="empty: only the time moves" autoFocus />
            </Box>
          )}
          {values.map((name, index) => (
            <Box key={name} width="10rem">
              <NumberField
                name={name}
                reads={name === "hours" ? "h" : (entry.units?.[name as "amount"] ?? undefined)}
                note={event && name === "amount" && mayBeLeftOut(event, name) ? "empty: to the brim" : undefined}
                autoFocus={index === 0}
              />
            </Box>
          ))}
          <Box width="8rem">
            <TextField name="time" type="time" />
          </Box>
          <Plain type="submit" tone="strong" disabled={draft.form.formState.isSubmitting}>
            Correct
          </Plain>
          <Plain onClick={close}>Cancel</Plain>
        </HStack>
      </DraftForm>
    </Box>
  );
};

/** One line of a day: correct it or take it out; the history keeps what stood before. */
export const EntryEditor = ({
  rig,
  entry,
  saw,
  writes,
}: {
  rig: number;
  entry: Entry;
  saw: number;
  writes: boolean;
}) => {
  const [open, setOpen] = useState(false);
  const once = useOnce();
  const remove = useRemove(rig, saw);
  const waits = waitsFor(useWaiting(), rig, entry);
  const take = () => void once("remove", () => remove.mutateAsync(entry).then(done, done));
  return (
    <Box as="li" py="1" borderBottomWidth="1px" borderColor="rule">
      <HStack justify="space-between">
        <Box>
          <Box as="span" color="soft" mr="2">
            {clockWords(entry.at)}
          </Box>
          {entry.words}
        </Box>
        {writes && (
          <HStack flexShrink={0}>
            <Plain size="sm" aria-expanded={open} aria-label={`Correct: ${entry.words}`} onClick={() => setOpen(!open)}>
              Correct
            </Plain>
            <Plain size="sm" aria-label={`Remove: ${entry.words}`} onClick={take}>
              Remove
            </Plain>
          </HStack>
        )}
      </HStack>
      {open && <Correction rig={rig} entry={entry} saw={saw} close={() => setOpen(false)} />}
      {waits && (
        <Box color="soft" fontSize="sm">
          {waits}
        </Box>
      )}
      {entry.near && (
        <Box color="warn" fontSize="sm">
          {entry.near}
        </Box>
      )}
      {writes && <WhichTime rig={rig} entry={entry} saw={saw} />}
      <Problem error={remove.error} />
    </Box>
  );
};

const done = () => undefined;
