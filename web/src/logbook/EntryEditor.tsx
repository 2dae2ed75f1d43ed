import { Box, HStack, Input } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, type Schemas, take } from "../api/client";
import { Problem } from "../parts/Notice";
import { typedNumber } from "../parts/number";
import { Plain } from "../parts/Plain";
import { clock } from "../parts/words";
import { useTakeBack } from "../round/Entries";

type Entry = Schemas["Entry"];

const VALUES = ["amount", "hours", "count"] as const;

/** The number of an event that can be corrected, if it has one; a fill to the brim may become a measured one. */
const valueOf = (event: Schemas["EventIn"]): (typeof VALUES)[number] | null =>
  VALUES.find((name) => event[name] !== null && event[name] !== undefined) ?? (event.type === "fill" ? "amount" : null);

const corrected = (event: Schemas["EventIn"], typed: number | null, at: string): Schemas["EventIn"] => {
  const name = valueOf(event);
  if (name === null) return { ...event, at };
  return { ...event, at, [name]: typed, full: event.type === "fill" && typed === null };
};

const Correction = ({ rig, entry, close }: { rig: number; entry: Entry; close: () => void }) => {
  const queries = useQueryClient();
  const event = entry.event ?? null;
  const name = event ? valueOf(event) : null;
  const [text, setText] = useState(event && name ? String(event[name] ?? "") : "");
  const [time, setTime] = useState(clock(entry.at));
  const at = `${entry.at.slice(0, 11)}${time}${entry.at.slice(16)}`;
  const path = { rig_id: String(rig) };
  const typed = typedNumber(event && name ? text : "");
  const correct = useMutation<unknown>({
    mutationFn: () =>
      event
        ? take(
            client.PUT("/api/rigs/{rig_id}/events/{event_id}", {
              params: { path: { ...path, event_id: String(entry.id) } },
              body: corrected(event, typed.value, at),
            }),
          )
        : take(
            client.PUT("/api/rigs/{rig_id}/readings/{reading_id}", {
              params: { path: { ...path, reading_id: String(entry.id) } },
              body: { store: entry.store ?? "", text, at },
            }),
          ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["rig", rig] });
      close();
    },
  });
  const ready = event !== null ? typed.problem === null : text.trim() !== "";
  return (
    <Box bg="sunken" p="3" borderRadius="md" my="1">
      <HStack wrap="wrap">
        {(!event || name) && (
          <Input
            aria-label={event ? `Right ${name ?? ""}` : "Right value"}
            width="10rem"
            bg="raised"
            borderColor="edge"
            autoFocus
            placeholder={event ? (event.type === "fill" ? "to the brim" : "") : "72%, 2/3, 45 L"}
            value={text}
            onChange={(change) => setText(change.target.value)}
            onKeyDown={(key) => key.key === "Enter" && ready && correct.mutate()}
          />
        )}
        <Input
          aria-label="Time"
          type="time"
          width="8rem"
          bg="raised"
          borderColor="edge"
          value={time}
          onChange={(change) => setTime(change.target.value)}
        />
        <Plain tone="strong" disabled={!ready || correct.isPending} onClick={() => correct.mutate()}>
          Correct
        </Plain>
        <Plain onClick={close}>Cancel</Plain>
      </HStack>
      <Problem error={typed.problem ?? correct.error} />
    </Box>
  );
};

/** One line of a day: correct it or take it out; the history keeps what stood before. */
export const EntryEditor = ({ rig, entry }: { rig: number; entry: Entry }) => {
  const [open, setOpen] = useState(false);
  const back = useTakeBack(rig);
  return (
    <Box as="li" py="1" borderBottomWidth="1px" borderColor="rule">
      <HStack justify="space-between">
        <Box>
          <Box as="span" color="soft" mr="2">
            {clock(entry.at)}
          </Box>
          {entry.words}
        </Box>
        <HStack flexShrink={0}>
          <Plain size="sm" aria-expanded={open} aria-label={`Correct: ${entry.words}`} onClick={() => setOpen(!open)}>
            Correct
          </Plain>
          <Plain size="sm" aria-label={`Remove: ${entry.words}`} onClick={() => back.mutate(entry)}>
            Remove
          </Plain>
        </HStack>
      </HStack>
      {open && <Correction rig={rig} entry={entry} close={() => setOpen(false)} />}
      <Problem error={back.error} />
    </Box>
  );
};
