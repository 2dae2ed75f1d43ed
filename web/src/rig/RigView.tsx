import { Box, chakra, Flex, Grid, Heading } from "@chakra-ui/react";
import { zodResolver } from "@hookform/resolvers/zod";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { FormProvider, useForm, type UseFormReturn, useWatch } from "react-hook-form";
import { Link as RouterLink } from "react-router";

import { CATALOGUE, choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { useChangeRig } from "../api/mutations";
import { checksQuery, rigQuery } from "../api/queries";
import { useRig } from "../api/rig";
import { ChoiceField, NumberField, TextField } from "../forms/fields";
import { place } from "../forms/refusal";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { useSettled } from "../parts/settled";
import { CrewAccounts } from "./CrewAccounts";
import type { RigDoc } from "./fields";
import { pathsOf, RIG } from "./form";
import { Power } from "./Power";
import { AboardContext, Checks, Section } from "./Section";
import { Stores } from "./Stores";

const SETTLE_MS = 400;

const Crew = () => (
  <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3" alignItems="start">
    <TextField name="name" label="Name of the rig" />
    <TextField name="timezone" />
    <ChoiceField name="units" options={choices(CATALOGUE.systems)} />
    <NumberField name="crew.adults" />
    <NumberField name="crew.children" />
    <NumberField name="crew.pets" />
  </Grid>
);

const KeepBar = ({ problem, busy, discard }: { problem?: string; busy: boolean; discard: () => void }) => (
  <Box
    position="sticky"
    bottom="0"
    bg="sunken"
    p="3"
    borderTopWidth="2px"
    borderColor="first"
    zIndex={2}
    role="region"
    aria-label="Changes not saved yet"
  >
    <Flex gap="3" align="center" wrap="wrap">
      <Box fontWeight="600">Changed, not saved yet.</Box>
      <Plain type="submit" tone="strong" disabled={busy}>
        Save the changes
      </Plain>
      <Plain onClick={discard}>Discard</Plain>
    </Flex>
    <Problem error={problem} />
  </Box>
);

/** The draft as it stands, once it can be read and has stood for a moment. */
const useDraft = (form: UseFormReturn<RigDoc>): RigDoc | null => {
  const text = JSON.stringify(useWatch({ control: form.control }));
  const hasSettled = useSettled(text, SETTLE_MS) === text;
  return useMemo(() => {
    const draft = JSON.parse(text) as RigDoc;
    return hasSettled && form.formState.isDirty && RIG.safeParse(draft).success ? draft : null;
  }, [text, hasSettled, form.formState.isDirty]);
};

/** Says at the fields what the server finds wrong with the draft, and takes it back when it is right again. */
const useRefused = (form: UseFormReturn<RigDoc>, error: Error | null) => {
  const { setError, clearErrors, getValues } = form;
  useEffect(() => {
    if (error) place(error, pathsOf(getValues()), setError, false);
    else clearErrors("root.server");
  }, [error, getValues, setError, clearErrors]);
};

const RigForm = ({ rig, saved }: { rig: number; saved: Schemas["RigOut"] }) => {
  const form = useForm<RigDoc>({ resolver: zodResolver(RIG), defaultValues: saved.doc, mode: "onBlur" });
  const { isDirty, isSubmitting, errors } = form.formState;
  const draft = useDraft(form);
  const tried = useQuery(checksQuery(rig, draft));
  const save = useChangeRig(rig);
  const { reset } = form;
  useRefused(form, tried.error);
  useEffect(() => {
    // what came from elsewhere is shown, unless something is being changed here
    if (!isDirty) reset(saved.doc);
  }, [isDirty, reset, saved.doc]);
  const submit = form.handleSubmit(async (doc) => {
    try {
      reset((await save.mutateAsync({ doc, saw: saved.revision })).doc);
    } catch (error) {
      place(error, pathsOf(doc), form.setError);
    }
  });
  const aboard = { units: saved.units, checks: (draft && tried.data) || saved.checks, assumed: saved.assumed };
  return (
    <FormProvider {...form}>
      <AboardContext value={aboard}>
        <form noValidate onSubmit={(event) => void submit(event)}>
          <chakra.fieldset disabled={saved.role !== "owner"} border="none" p="0" minW="0">
            <Section title="Crew and units">
              <Crew />
            </Section>
            <Section title="Stores and their lines">
              <Box color="soft" fontSize="sm">
                A store's lode line is the level at which it sends you away.
              </Box>
              <Checks place="weight" />
              <Stores />
            </Section>
            <Power cautions={saved.cautions} />
          </chakra.fieldset>
          {isDirty && (
            <KeepBar problem={errors.root?.server?.message} busy={isSubmitting} discard={() => reset(saved.doc)} />
          )}
        </form>
      </AboardContext>
    </FormProvider>
  );
};

/** Everything aboard: what it is, what it makes together, and its lines. */
export const RigView = () => {
  const rig = useRig();
  const known = useQuery(rigQuery(rig));
  if (known.isPending) return <Waiting what="the rig" />;
  if (known.isError && !known.data) return <Refused error={known.error} again={() => void known.refetch()} />;
  const saved = known.data;
  const owner = saved.role === "owner";
  return (
    <Box maxW="70rem" mx="auto">
      <Flex justify="space-between" align="baseline" wrap="wrap" mb="4">
        <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
          {saved.doc.name}
        </Heading>
        <RouterLink to="/set-up">
          <Box as="span" textDecoration="underline">
            Set up another rig
          </Box>
        </RouterLink>
      </Flex>
      {!owner && <Box mb="4">You are crew on this rig: you can log; its owner changes what is aboard.</Box>}
      <RigForm rig={rig} saved={saved} />
      <Section title="Accounts">
        <CrewAccounts rig={rig} owner={owner} />
      </Section>
    </Box>
  );
};
