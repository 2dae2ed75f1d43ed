import { Box, chakra, Flex, Grid, Heading } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link as RouterLink } from "react-router";

import { client, take } from "../api/client";
import { rigQuery } from "../api/queries";
import { useRig } from "../app/rig";
import { Choice, NumberEntry, TextEntry } from "../parts/Entry";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { CrewAccounts } from "./CrewAccounts";
import type { RigDoc } from "./fields";
import { Charging, Inverter, Loads } from "./Power";
import { Checks, type Edited, Section } from "./Section";
import { Stores } from "./Stores";

const Crew = ({ doc, change }: Edited) => {
  const crew = (part: Partial<RigDoc["crew"]>) => change({ ...doc, crew: { ...doc.crew, ...part } });
  return (
    <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3">
      <TextEntry label="Name of the rig" value={doc.name} onValue={(name) => change({ ...doc, name })} />
      <TextEntry label="Timezone" value={doc.timezone} onValue={(timezone) => change({ ...doc, timezone })} />
      <Choice
        label="Units"
        value={doc.units}
        options={[
          ["metric", "litres, kg, km, °C"],
          ["us", "gallons, lb, miles, °F"],
          ["uk", "litres, kg, miles, °C"],
        ]}
        onValue={(units) => change({ ...doc, units: units as RigDoc["units"] })}
      />
      <NumberEntry label="Adults" value={doc.crew.adults} onValue={(adults) => crew({ adults: adults ?? 1 })} />
      <NumberEntry
        label="Children"
        value={doc.crew.children}
        onValue={(children) => crew({ children: children ?? 0 })}
      />
      <NumberEntry label="Animals" value={doc.crew.pets} onValue={(pets) => crew({ pets: pets ?? 0 })} />
    </Grid>
  );
};

const KeepBar = ({
  draft,
  problem,
  busy,
  keep,
  discard,
}: {
  draft: RigDoc | null;
  problem: Error | null;
  busy: boolean;
  keep: () => void;
  discard: () => void;
}) =>
  draft === null ? null : (
    <Box
      position="sticky"
      bottom="0"
      bg="sunken"
      p="3"
      borderTopWidth="2px"
      borderColor="bind"
      zIndex={2}
      role="region"
      aria-label="Changes not kept yet"
    >
      <Flex gap="3" align="center" wrap="wrap">
        <Box fontWeight="600">Changed, not kept yet.</Box>
        <Plain tone="strong" disabled={busy} onClick={keep}>
          Keep the changes
        </Plain>
        <Plain onClick={discard}>Discard</Plain>
      </Flex>
      <Problem error={problem} />
    </Box>
  );

/** Everything aboard: what it is, what it makes together, and its lines. */
export const RigView = () => {
  const rig = useRig();
  const queries = useQueryClient();
  const found = useQuery(rigQuery(rig));
  const [draft, setDraft] = useState<RigDoc | null>(null);
  const path = { params: { path: { rig_id: String(rig) } } };
  const tried = useQuery({
    queryKey: ["rig", rig, "checks", draft],
    enabled: draft !== null,
    retry: false,
    queryFn: ({ signal }) => take(client.POST("/api/rigs/{rig_id}/checks", { ...path, body: draft as RigDoc, signal })),
  });
  const save = useMutation({
    mutationFn: (doc: RigDoc) => take(client.PUT("/api/rigs/{rig_id}", { ...path, body: doc })),
    onSuccess: async () => {
      setDraft(null);
      await queries.invalidateQueries();
    },
  });
  if (found.isPending) return <Waiting what="the rig" />;
  if (found.isError && !found.data) return <Refused error={found.error} again={() => void found.refetch()} />;
  const doc = draft ?? found.data.doc;
  const checks = (draft ? tried.data : undefined) ?? found.data.checks;
  const owner = found.data.role === "owner";
  const guessed = found.data.assumed;
  const edited: Edited = {
    doc,
    units: found.data.units,
    checks,
    assumed: (name) => guessed.includes(name),
    change: (next) => {
      save.reset();
      setDraft(next);
    },
  };
  return (
    <Box maxW="70rem" mx="auto">
      <Flex justify="space-between" align="baseline" wrap="wrap" mb="4">
        <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
          {doc.name}
        </Heading>
        <RouterLink to="/set-up">
          <Box as="span" textDecoration="underline">
            Set up another rig
          </Box>
        </RouterLink>
      </Flex>
      {!owner && <Box mb="4">You are crew on this rig: you can log; its owner changes what is aboard.</Box>}
      <chakra.fieldset disabled={!owner} border="none" p="0" minW="0">
        <Section title="Crew and units">
          <Crew {...edited} />
        </Section>
        <Section title="Stores and their lines">
          <Checks checks={checks} place="weight" />
          <Stores {...edited} />
        </Section>
        <Charging {...edited} />
        <Section title="Inverter">
          <Checks checks={checks} place="inverter" />
          <Inverter {...edited} />
        </Section>
        <Section title="Loads">
          <Loads {...edited} />
        </Section>
      </chakra.fieldset>
      <Section title="Accounts">
        <CrewAccounts rig={rig} owner={owner} />
      </Section>
      <KeepBar
        draft={draft}
        problem={save.error ?? tried.error}
        busy={save.isPending}
        keep={() => draft && save.mutate(draft)}
        discard={() => setDraft(null)}
      />
    </Box>
  );
};
