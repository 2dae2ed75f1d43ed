import { Box, Grid, Input } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { askCharge } from "../api/queries";
import { useRig } from "../app/rig";
import { Choice, Labelled, NumberEntry } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import type { Energy } from "./scales";

const KINDS: Record<string, string> = { alternator: "Engine", shore: "Post", generator: "Generator" };
const DAY_MS = 86_400_000;

const later = (now: string, days: number): string =>
  new Date(Date.parse(`${now.slice(0, 10)}T12:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);

const Answer = ({ found }: { found: Schemas["ChargeOut"] }) => (
  <Box aria-live="polite" mt="3" data-part="charge">
    <Box as="ul" pl="5" listStyleType="disc">
      {[found.reach, found.bulk, found.two, found.hold_once, found.hold_daily].map(
        (plan) =>
          plan && (
            <Box as="li" key={plan.words}>
              {plan.words}
            </Box>
          ),
      )}
      <Box as="li" fontWeight="600">
        {found.sun_words}
      </Box>
    </Box>
    <Box color="soft" fontSize="sm" mt="2">
      {found.cautions.join(" ")}
    </Box>
  </Box>
);

/** Hours of engine, post or generator to a level, or to hold through a date. */
export const HowLong = ({ energy, bank }: { energy: Energy; bank: string | null }) => {
  const rig = useRig();
  const [asked, setAsked] = useState<Schemas["ChargeIn"]>({
    source: energy.sources[0]?.id ?? "",
    target: 90,
    until: later(energy.now, 4),
  });
  const ask = useMutation({ mutationFn: (body: Schemas["ChargeIn"]) => askCharge(rig, bank, body) });
  const change = (part: Partial<Schemas["ChargeIn"]>) => {
    ask.reset();
    setAsked({ ...asked, ...part });
  };
  if (energy.sources.length === 0)
    return <Box color="soft">No engine, post or generator charges this bank. Add one on the Rig view.</Box>;
  return (
    <Box>
      <Grid templateColumns={{ base: "1fr 1fr", md: "2fr 1fr 1fr" }} gap="3" alignItems="end">
        <Choice
          label="By"
          value={asked.source}
          options={energy.sources.map(
            (each) => [each.id, `${KINDS[each.kind] ?? each.kind}, ${Math.round(each.amps)} A`] as const,
          )}
          onValue={(source) => change({ source })}
        />
        <NumberEntry label="To" unit="%" value={asked.target} onValue={(target) => change({ target: target ?? 0 })} />
        <Labelled label="Or to hold through">
          <Input
            type="date"
            bg="raised"
            borderColor="edge"
            min={later(energy.now, 0)}
            max={later(energy.now, 13)}
            value={asked.until}
            onChange={(event) => change({ until: event.target.value })}
          />
        </Labelled>
        <Plain tone="strong" disabled={ask.isPending || asked.until === ""} onClick={() => ask.mutate(asked)}>
          How long?
        </Plain>
      </Grid>
      <Problem error={ask.error} />
      {ask.data && <Answer found={ask.data} />}
    </Box>
  );
};
