import { Box, Flex, HStack, Input } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { Problem } from "../parts/Notice";
import { typedNumber } from "../parts/number";
import { Plain } from "../parts/Plain";
import type { Waiting } from "./outbox";

type Act = Schemas["Act"];
type Log = (entry: Waiting) => Promise<"kept" | "waits">;

const body = (act: Act, typed: number | null): Schemas["EventIn"] => {
  const event = { type: act.type, store: act.store, full: false };
  if (act.needs === "hours") return { ...event, hours: typed ?? 1 };
  if (act.needs === "count") return { ...event, count: typed ?? 1 };
  if (act.type === "move") return { ...event, source: "reserve", target: act.store, amount: typed };
  if (act.type === "fill") return typed === null ? { ...event, full: true } : { ...event, amount: typed };
  return event;
};

/** What cannot be logged by one touch: hours, and an amount that has no usual value. */
const asks = (act: Act): boolean => act.needs === "hours" || act.type === "move";

const START: Record<string, string> = { hours: "1", count: "1", amount: "" };
const SAYS: Record<string, string> = {
  hours: "For how long",
  count: "How often",
  amount: "how much; empty means to the brim",
};

const Amount = ({ act, log, close }: { act: Act; log: (value: number | null) => Promise<void>; close: () => void }) => {
  const needs = act.needs ?? "";
  const [text, setText] = useState(START[needs] ?? "");
  const { value, problem } = typedNumber(text);
  const small = value !== null && value <= 0 ? "Write a number greater than 0, or leave it empty." : null;
  const wrong = problem ?? small;
  const missing = act.type === "move" && value === null;
  return (
    <Box bg="sunken" p="3" borderRadius="md" mt="3">
      <Box asChild fontWeight="600">
        <label htmlFor="act-amount">
          {act.label}: {act.type === "move" ? "how much" : SAYS[needs]}
          {act.unit && ` (${act.unit})`}
        </label>
      </Box>
      <HStack mt="2">
        <Input
          id="act-amount"
          size="lg"
          bg="raised"
          borderColor="edge"
          inputMode="decimal"
          autoFocus
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && !wrong && !missing && void log(value)}
        />
        <Plain tone="strong" minH="11" disabled={wrong !== null || missing} onClick={() => void log(value)}>
          Log it
        </Plain>
        <Plain minH="11" onClick={close}>
          Cancel
        </Plain>
      </HStack>
      <Problem error={wrong} />
    </Box>
  );
};

/** What was done today: one touch logs it; what takes an amount or hours asks once. */
export const Acts = ({ rig, acts, log }: { rig: number; acts: Act[]; log: Log }) => {
  const [open, setOpen] = useState<Act | null>(null);
  const [said, setSaid] = useState<{ words: string; bad: boolean } | null>(null);
  const send = async (act: Act, value: number | null) => {
    try {
      const done = await log({ kind: "event", rig, body: body(act, value) });
      setSaid({ words: done === "kept" ? `Logged: ${act.label}` : `Waits for a signal: ${act.label}`, bad: false });
      setOpen(null);
    } catch (error) {
      setSaid({ words: error instanceof Error ? error.message : String(error), bad: true });
    }
  };
  return (
    <Box>
      <Flex gap="2" wrap="wrap">
        {acts.map((act) => (
          <HStack key={act.label} gap="0">
            <Plain
              aria-pressed={open?.label === act.label}
              borderEndRadius={act.type === "fill" ? "none" : undefined}
              onClick={() => (asks(act) ? setOpen(act) : void send(act, null))}
            >
              {act.label}
            </Plain>
            {act.type === "fill" && (
              <Plain
                borderStartRadius="none"
                borderStartWidth="0"
                color="soft"
                aria-label={`${act.label}, only a part`}
                onClick={() => setOpen(act)}
              >
                part
              </Plain>
            )}
          </HStack>
        ))}
      </Flex>
      {open && <Amount key={open.label} act={open} log={(value) => send(open, value)} close={() => setOpen(null)} />}
      <Box role="status" mt="2" minH="1.4em" color={said?.bad ? "warn" : "good"}>
        {said?.words}
      </Box>
    </Box>
  );
};
