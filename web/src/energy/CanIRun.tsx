import { Box, Grid } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { askRun } from "../api/queries";
import { useRig } from "../app/rig";
import { Choice, NumberEntry } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { whenWords } from "../parts/words";
import { type Energy, spanWords } from "./scales";

const ANSWERS: Record<string, string> = { yes: "Yes.", tight: "It may be tight.", no: "No." };

const startOptions = (energy: Energy): [string, string][] => [
  ["", "now"],
  ...energy.hours
    .filter((hour) => hour.at.slice(14, 16) === "00")
    .slice(0, 36)
    .map((hour): [string, string] => [hour.at, whenWords(hour.at)]),
];

const Lines = ({ lines }: { lines: string[] }) => (
  <Box as="ul" pl="5" listStyleType="disc">
    {lines.map((line) => (
      <Box as="li" key={line}>
        {line}
      </Box>
    ))}
  </Box>
);

const Answer = ({ found }: { found: Schemas["VerdictOut"] }) => (
  <Box aria-live="polite" data-part="verdict">
    <Box fontFamily="heading" fontSize="xl" fontWeight="600" color={found.answer === "no" ? "warn" : "ink"} mt="3">
      {ANSWERS[found.answer]}
    </Box>
    <Box mb="2">
      {Math.round(found.current_a)} A from the bank, {found.ah.toFixed(1)} Ah of it, {(found.share * 100).toFixed(1)} %
      of capacity. The next low would go from {spanWords(found.low_without)} to {spanWords(found.low_with)}.{" "}
      {found.latest_start
        ? `The sun still makes it up when it starts by ${whenWords(found.latest_start)}.`
        : "The sun of today and tomorrow does not make it up."}
    </Box>
    <Lines lines={found.why} />
    {found.ways.length > 0 && (
      <>
        <Box fontWeight="600" mt="2">
          What would make it possible
        </Box>
        <Lines lines={found.ways} />
      </>
    )}
    <Box color="soft" fontSize="sm" mt="2">
      {found.cautions.join(" ")}
    </Box>
  </Box>
);

/** Any appliance: what it asks of inverter, cable and bank, and what it does to the next low. */
export const CanIRun = ({ energy, bank }: { energy: Energy; bank: string | null }) => {
  const rig = useRig();
  const [asked, setAsked] = useState<Schemas["RunIn"]>(() => {
    const first = energy.appliances[0];
    return {
      watts: first?.watts ?? 1000,
      minutes: first?.minutes ?? 10,
      via: "inverter",
      surge: first?.surge ?? 1,
      heats: first?.heats ?? false,
    };
  });
  const [kind, setKind] = useState(energy.appliances[0]?.id ?? "");
  const ask = useMutation({ mutationFn: (body: Schemas["RunIn"]) => askRun(rig, bank, body) });
  const change = (part: Partial<Schemas["RunIn"]>) => {
    ask.reset();
    setAsked({ ...asked, ...part });
  };
  const choose = (id: string) => {
    setKind(id);
    const found = energy.appliances.find((each) => each.id === id);
    if (found)
      change({
        watts: found.watts,
        minutes: found.minutes,
        via: found.via as "dc" | "inverter",
        surge: found.surge,
        heats: found.heats,
      });
  };
  return (
    <Box>
      <Grid templateColumns={{ base: "1fr 1fr", md: "2fr 1fr 1fr" }} gap="3" alignItems="end">
        <Choice
          label="Appliance"
          value={kind}
          options={energy.appliances.map((each) => [each.id, each.name] as const)}
          onValue={choose}
        />
        <NumberEntry label="Draws" unit="W" value={asked.watts} onValue={(watts) => change({ watts: watts ?? 0 })} />
        <NumberEntry
          label="For"
          unit="min"
          value={asked.minutes}
          onValue={(minutes) => change({ minutes: minutes ?? 0 })}
        />
        <Choice
          label="Start"
          value={asked.start ?? ""}
          options={startOptions(energy)}
          onValue={(start) => change({ start: start || null })}
        />
        <Choice
          label="Through"
          value={asked.via ?? "inverter"}
          options={[
            ["inverter", "the inverter"],
            ["dc", "the bank's own volts"],
          ]}
          onValue={(via) => change({ via: via as "dc" | "inverter" })}
        />
        <Plain tone="strong" disabled={ask.isPending} onClick={() => ask.mutate(asked)}>
          Can I run it?
        </Plain>
      </Grid>
      <Problem error={ask.error} />
      {ask.data && <Answer found={ask.data} />}
    </Box>
  );
};
