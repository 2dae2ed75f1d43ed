import { Box, chakra, Flex, HStack, Input } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { useDid } from "../forms/did";
import { eventOf, mayBeFull, mayBePart, oneTouch } from "../forms/events";
import { CheckField, NumberField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { given, needed, optional, z } from "../forms/schema";
import { useTyped } from "../forms/system";
import { isUnread, type Typed } from "../forms/typed";
import { Fold } from "../parts/Fold";
import { useIsPhone } from "../parts/phone";
import { Plain } from "../parts/Plain";

type Act = Schemas["ActOut"];
type Event = Schemas["EventIn"];

interface Asked {
  value: Typed;
  amount?: Typed;
  full?: boolean | null;
}

const START: Record<string, number | null> = { hours: 1, count: 1, amount: null };

/** Asks once for what an act takes: hours, how often, or an amount. */
const Asking = ({ act, log, close }: { act: Act; log: (event: Event) => Promise<void>; close: () => void }) => {
  const understood = useTyped();
  const mayBeEmpty = mayBePart(act);
  const fills = mayBeEmpty && mayBeFull(act);
  const range = { over: 0, whole: act.asks === "count", ...(act.asks === "hours" ? { most: 24 } : {}) };
  const wayOf = (value: Typed): number | null => {
    const way = act.far && isUnread(value) ? understood(value.text, act.far) : null;
    return typeof way === "number" && way > 0 ? way : null;
  };
  const schema = z.object({
    value: mayBeEmpty ? optional(range) : needed({ ...range, or: (text) => wayOf(text) !== null }),
    amount: optional({ over: 0 }),
    full: z.nullish(z.boolean()),
  });
  const draft = useDraft<Asked>({
    schema,
    values: { value: START[act.asks], ...(act.measured ? { amount: null } : {}), ...(fills ? { full: null } : {}) },
    send: ({ value, amount, full }) => {
      const way = wayOf(value);
      if (way !== null) return log({ ...eventOf(act, null), distance: way });
      const event = eventOf(act, given(value), given(amount));
      return log(full ? { ...event, full: true } : event);
    },
    mode: "onChange",
  });
  return (
    <Box bg="sunken" p="3" borderRadius="md" mt="3">
      <DraftForm of={draft}>
        <NumberField
          name="value"
          label={act.question ?? act.label}
          reads={act.asks === "count" ? undefined : (act.unit ?? undefined)}
          size="lg"
          autoFocus
        />
        {act.measured && (
          <Box mt="2">
            <NumberField name="amount" label={act.measured} reads={act.unit ?? undefined} size="lg" />
          </Box>
        )}
        {fills && <CheckField name="full" label="with that it is full: all that was missing" />}
        <HStack mt="2">
          <Plain type="submit" tone="strong" minH="11" disabled={draft.form.formState.isSubmitting}>
            Log it
          </Plain>
          <Plain minH="11" onClick={close}>
            Cancel
          </Plain>
        </HStack>
      </DraftForm>
    </Box>
  );
};

/** What was done today: one touch logs it; what takes an amount or hours asks once. */
export const Acts = ({ acts, rig }: { acts: Act[]; rig: number }) => {
  const { log, touch: did, said } = useDid(rig);
  const [open, setOpen] = useState<Act | null>(null);
  const [time, setTime] = useState("");
  const phone = useIsPhone();
  const send = async (act: Act, event: Event) => {
    await log(act.label, event, time ? { time } : {});
    setTime("");
    setOpen(null);
  };
  const touch = (act: Act) => {
    const event = oneTouch(act);
    if (event === null) return setOpen(act);
    did(act.label, event, time ? { time } : {});
    setTime("");
  };
  const [often, others] = [acts.filter((act) => act.often), acts.filter((act) => !act.often)];
  const [usual, rare] = [others.filter((act) => !act.rare), others.filter((act) => act.rare)];
  const button = (act: Act) => {
    const second = mayBePart(act)
      ? ["part", "only a part"]
      : act.measured
        ? ["more", "more than one, or measured"]
        : null;
    return (
      <HStack key={act.label} gap="0">
        <Plain
          aria-pressed={open?.label === act.label}
          borderEndRadius={second ? "none" : undefined}
          onClick={() => touch(act)}
        >
          {act.label}
        </Plain>
        {second && (
          <Plain
            borderStartRadius="none"
            borderStartWidth="0"
            color="soft"
            aria-label={`${act.label}, ${second[1]}`}
            onClick={() => setOpen(act)}
          >
            {second[0]}
          </Plain>
        )}
      </HStack>
    );
  };
  const when = (
    <HStack mt="3" wrap="wrap">
      <chakra.label display="flex" alignItems="center" gap="2">
        <Box color="soft">At what time</Box>
        <Input
          type="time"
          width="8rem"
          bg="raised"
          borderColor="edge"
          value={time}
          onChange={(event) => setTime(event.target.value)}
        />
      </chakra.label>
      <Box color="soft" fontSize="sm" display={{ base: time ? "block" : "none", md: "block" }}>
        {time
          ? "The next thing that you log was done then."
          : "Left empty it is now. Set it before you touch what was done."}
      </Box>
    </HStack>
  );
  return (
    <Box>
      <Flex gap="2" wrap="wrap">
        {often.map(button)}
      </Flex>
      {others.length > 0 && (
        <Box asChild mt="1">
          <details>
            <chakra.summary cursor="pointer" py="1" color="soft">
              All that can be logged
            </chakra.summary>
            <Flex gap="2" wrap="wrap" mt="1">
              {usual.map(button)}
            </Flex>
            {rare.length > 0 && (
              <>
                <Box color="soft" mt="3" mb="1">
                  Seldom done
                </Box>
                <Flex gap="2" wrap="wrap">
                  {rare.map(button)}
                </Flex>
              </>
            )}
          </details>
        </Box>
      )}
      {phone ? <Fold title="At another time than now">{when}</Fold> : when}
      {open && <Asking key={open.label} act={open} log={(event) => send(open, event)} close={() => setOpen(null)} />}
      {said}
    </Box>
  );
};
