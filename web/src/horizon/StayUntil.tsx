import { Box, Flex, Grid, Heading, HStack, Input } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { stayQuery } from "../api/queries";
import { useRole } from "../api/rig";
import { Choose } from "../parts/Choose";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { dateWords } from "../parts/words";
import { Agree } from "./Agree";

const SURE = [
  ["0.8", "8 in 10"],
  ["0.9", "9 in 10"],
  ["0.95", "19 in 20"],
] as const;

/** What is asked: stay until the morning of a day, with a wanted chance. */
export interface Asked {
  until: string;
  sure: number;
}

const dayBefore = (on: string): string => {
  const day = new Date(`${on}T12:00:00Z`);
  day.setUTCDate(day.getUTCDate() - 1);
  return day.toISOString().slice(0, 10);
};

const Step = ({ rig, step, answer }: { rig: number; step: Schemas["StepOut"]; answer: Schemas["StayOut"] }) => {
  const { until } = answer;
  const { writes } = useRole();
  return (
    <Box as="li" py="1.5" borderTopWidth="1px" borderColor="rule" data-lever={step.lever}>
      <Flex justify="space-between" gap="3" align="center">
        <Box>
          <Box as="span" fontWeight="600">
            {step.words}
          </Box>
          : {step.chance}
          <Box color="soft" fontSize="sm">
            {step.sides}
          </Box>
        </Box>
        {writes && (
          <Agree
            rig={rig}
            lever={step.lever}
            until={dayBefore(until)}
            label={`Agree until ${dateWords(until)}: ${step.words}`}
            of={answer}
          />
        )}
      </Flex>
    </Box>
  );
};

const Answer = ({ rig, answer }: { rig: number; answer: Schemas["StayOut"] }) => {
  const agree = useTell(rig, "post", "/agreed");
  const { writes } = useRole();
  const all = async () => {
    for (const step of answer.steps) await agree.mutateAsync({ lever: step.lever, until: dayBefore(answer.until) });
  };
  return (
    <Box aria-live="polite" data-part="stay-answer">
      <Box fontSize="lg">{answer.words}</Box>
      {answer.steps.length > 0 && (
        <Box as="ol" listStyleType="none" mt="2" aria-label="What gets you there, in the order in which it helps">
          {answer.steps.map((step) => (
            <Step key={step.lever} rig={rig} step={step} answer={answer} />
          ))}
        </Box>
      )}
      {writes && answer.feasible && answer.steps.length > 1 && (
        <Plain mt="2" disabled={agree.isPending} onClick={() => void all().catch(() => undefined)}>
          Agree on all
        </Plain>
      )}
      {answer.stop && (
        <Box mt="2">
          {answer.stop}{" "}
          <Link to="/stops">
            <Box as="span" textDecoration="underline">
              Open the plan
            </Box>
          </Link>
        </Box>
      )}
    </Box>
  );
};

/** One question: stay until a day. The day is typed here or dragged on the strip. ``asks``: whether the days are of now. */
export const StayUntil = ({
  rig,
  asked,
  ask,
  least,
  most,
  asks,
}: {
  rig: number;
  asked: Asked;
  ask: (asked: Asked) => void;
  least: string;
  most: string;
  asks: boolean;
}) => {
  const answer = useQuery(stayQuery(rig, asked.until, asked.sure, asks));
  return (
    <Box as="section" aria-label="Stay until" minW="0">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        Stay until
      </Heading>
      <Grid templateColumns="minmax(0, 11rem) minmax(0, 9rem)" gap="3" mb="3">
        <Labelled label="The morning of">
          <Input
            type="date"
            bg="raised"
            borderColor="edge"
            min={least}
            max={most}
            value={asked.until}
            onChange={(event) => ask({ ...asked, until: event.target.value })}
          />
        </Labelled>
        <Choose
          label="How sure"
          value={String(asked.sure)}
          options={SURE}
          onValue={(value) => ask({ ...asked, sure: Number(value) })}
        />
      </Grid>
      {asked.until === "" ? (
        <Box color="soft">Choose a day, or drag the flag on the strip.</Box>
      ) : answer.data ? (
        <Answer rig={rig} answer={answer.data} />
      ) : answer.isError ? (
        <Problem error={answer.error} />
      ) : (
        <HStack role="status" color="soft">
          <Box>Looking at what could be changed ...</Box>
        </HStack>
      )}
    </Box>
  );
};
