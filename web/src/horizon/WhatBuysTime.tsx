import { Box, Flex, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { rigLeversQuery } from "../api/queries";
import { useRole } from "../api/rig";
import { Select } from "../parts/Choose";
import { Problem, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { Agree } from "./Agree";

type Lever = Schemas["RigLeverOut"];

const NEVER = "never";
const SHOWN = 6;

/** How hard a lever is for this crew; what is never pulled stays in the list. */
const Hardship = ({ rig, lever, hardships }: { rig: number; lever: Lever; hardships: Schemas["HardshipOut"][] }) => {
  const set = useTell(rig, "put", "/hardship");
  return (
    <>
      <Select
        aria-label={`How hard: ${lever.words}`}
        width="11rem"
        value={lever.hardship === null ? NEVER : String(lever.hardship)}
        options={hardships.map((each) => [each.value === null ? NEVER : String(each.value), each.words] as const)}
        onChange={(event) =>
          set.mutate({ lever: lever.id, value: event.target.value === NEVER ? null : Number(event.target.value) })
        }
      />
      <Problem error={set.error} />
    </>
  );
};

const LeverLine = ({
  rig,
  lever,
  hardships,
  answer,
}: {
  rig: number;
  lever: Lever;
  hardships: Schemas["HardshipOut"][];
  answer: Schemas["LeversOut"];
}) => {
  const { writes } = useRole();
  const [open, setOpen] = useState(false);
  return (
    <Box
      as="li"
      borderTopWidth="1px"
      borderColor="rule"
      py="1.5"
      color={lever.idle ? "soft" : "ink"}
      data-lever={lever.id}
    >
      <Flex justify="space-between" gap="3" align="flex-start">
        <Box asChild textAlign="left" flex="1" minW="0" cursor="pointer" py="1">
          <button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
            <Box as="span" display="block" fontWeight={lever.idle ? 400 : 600}>
              {lever.words}
            </Box>
            <Box as="span" display="block" fontSize="sm">
              {lever.gain}
            </Box>
          </button>
        </Box>
        {writes && !lever.bought && lever.hardship !== null && (
          <Agree rig={rig} lever={lever.id} until={answer.until} label={`Agree: ${lever.words}`} of={answer} />
        )}
      </Flex>
      {open && (
        <Box fontSize="sm" pb="1">
          <Box>{lever.sides}</Box>
          <Box color="soft">{lever.cautions.join(" ")}</Box>
          {writes && !lever.bought && <Hardship rig={rig} lever={lever} hardships={hardships} />}
        </Box>
      )}
    </Box>
  );
};

const Agreed = ({ rig, agreed, writes }: { rig: number; agreed: Schemas["AgreedOut"][]; writes: boolean }) => {
  const end = useTell(rig, "post", "/agreed/end", (lever: string) => ({ body: { lever } }));
  if (agreed.length === 0) return null;
  return (
    <Box as="ul" listStyleType="none" aria-label="Agreed" mb="3">
      {agreed.map((each) => (
        <Flex as="li" key={each.lever} align="center" gap="3" py="1">
          <Box flex="1">
            <Box as="span" color="soft">
              Agreed:{" "}
            </Box>
            {each.words}
          </Box>
          {writes && (
            <Plain
              size="sm"
              disabled={end.isPending}
              aria-label={`No more: ${each.words}`}
              onClick={() => end.mutate(each.lever)}
            >
              No more
            </Plain>
          )}
        </Flex>
      ))}
      <Problem error={end.error} />
    </Box>
  );
};

/** What each change would bring the whole rig; what brings nothing stands last, in grey, with the reason. */
export const WhatBuysTime = ({ rig, until, asks }: { rig: number; until: string; asks: boolean }) => {
  const answer = useQuery(rigLeversQuery(rig, until || null, asks));
  const [all, setAll] = useState(false);
  const { writes } = useRole();
  if (!answer.data) return <Waiting what="what buys time" why={answer.failureReason} />;
  const { levers, agreed, hardships, after } = answer.data;
  const shown = all ? levers : levers.slice(0, SHOWN);
  return (
    <Box as="section" aria-label="What buys time" minW="0">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        What buys time
      </Heading>
      {after && (
        <Box color="soft" mb="2">
          {after}
        </Box>
      )}
      <Agreed rig={rig} agreed={agreed} writes={writes} />
      <Box as="ul" listStyleType="none">
        {shown.map((lever) => (
          <LeverLine key={lever.id} rig={rig} lever={lever} hardships={hardships} answer={answer.data} />
        ))}
      </Box>
      {levers.length > SHOWN && (
        <Plain mt="2" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Fewer" : `All ${levers.length}`}
        </Plain>
      )}
    </Box>
  );
};
