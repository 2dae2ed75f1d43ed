import { Box, Grid } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { get, ofBank } from "../api/asked";
import { choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { ViewHead } from "../forms/ViewHead";
import { Choose } from "../parts/Choose";
import { Refused, Waiting } from "../parts/Notice";
import { Section } from "../parts/Section";
import { useTitle } from "../parts/title";
import { Audit } from "./Audit";
import { CanIRun } from "./CanIRun";
import { DaysDrawing } from "./DaysDrawing";
import { HoursDrawing } from "./HoursDrawing";
import { HowLong } from "./HowLong";
import { Levers } from "./Levers";

type Energy = Schemas["EnergyOut"];

const Lines = ({ lines }: { lines: string[] }) => (
  <>
    {lines.map((line) => (
      <Box key={line} mb="1">
        {line}
      </Box>
    ))}
  </>
);

const Parts = ({ energy }: { energy: Energy }) => (
  <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} columnGap="10">
    <Section title="The array" folds>
      {energy.weak && (
        <Box color="warn" mb="2" role="note">
          {energy.weak}
        </Box>
      )}
      <Lines lines={energy.array} />
    </Section>
    <Section title="The bank and what is on it" folds>
      <Lines lines={energy.wear} />
      {energy.checks.map((check) => (
        <Box key={check.words} color={check.warns ? "warn" : "soft"} fontSize="sm">
          {check.words}
        </Box>
      ))}
      <Box color="soft" fontSize="sm" mt="2">
        {energy.cautions.join(" ")}
      </Box>
    </Section>
  </Grid>
);

const Known = ({ energy, bank }: { energy: Energy; bank: string | null }) => (
  <>
    <Section title="Yesterday to the day after tomorrow, hour by hour">
      <HoursDrawing energy={energy} />
    </Section>
    <Section title="In and out by day" folds>
      <DaysDrawing days={energy.days} />
    </Section>
    <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} columnGap="10">
      <Section title="Can I run it?" folds>
        <CanIRun energy={energy} bank={bank} />
      </Section>
      <Section title="How long to charge?" folds>
        <HowLong energy={energy} bank={bank} />
      </Section>
    </Grid>
    <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 4fr) minmax(0, 3fr)" }} columnGap="10">
      <Section title="What would help?" folds>
        <Levers bank={bank} />
      </Section>
      <Section title="The loads" folds>
        {energy.audit && <Audit saw={energy.revision} audit={energy.audit} bank={bank} />}
      </Section>
    </Grid>
    <Parts energy={energy} />
  </>
);

/** What a bank is asked: how long without sun, is the array doing what it should, can I run this, how long to charge. */
export const EnergyView = () => {
  useTitle("Energy");
  const [bank, setBank] = useState<string | null>(null);
  const answer = useQuery(get(useRig(), "/energy", { query: ofBank(bank) }));
  if (answer.isPending) return <Waiting what="the bank's hours" why={answer.failureReason} />;
  if (answer.isError && !answer.data) return <Refused error={answer.error} again={() => void answer.refetch()} />;
  const energy = answer.data;
  return (
    <Box maxW="76rem" mx="auto">
      <ViewHead title={energy.headline}>{energy.detail}</ViewHead>
      {energy.banks.length > 1 && (
        <Box maxW="16rem" mb="4">
          <Choose label="Bank" value={energy.bank ?? ""} options={choices(energy.banks)} onValue={setBank} />
        </Box>
      )}
      {energy.known && <Known key={energy.bank} energy={energy} bank={bank} />}
    </Box>
  );
};
