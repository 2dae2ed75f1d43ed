import { Box, chakra, Dialog, Flex, Grid, Heading, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { FormProvider, type UseFormReturn, useWatch } from "react-hook-form";
import { Link as RouterLink } from "react-router";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import type { RigDoc } from "../forms/rig";
import { AsOf } from "../parts/AsOf";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";
import { localOf } from "../parts/words";
import { AddStore, AddSupplies, Adding } from "./Adding";
import { Compare, Copy } from "./Copies";
import { CrewAccounts } from "./CrewAccounts";
import { useRigForm } from "./draft";
import { Drawing } from "./Drawing";
import { CrewFields, InverterFields, PartFields } from "./PartFields";
import { PartRow } from "./PartRow";
import { differing, type List, type Part, partsOf } from "./parts";
import { AboardContext, Checks, Section } from "./Section";
import { StoreFields } from "./StoreFields";

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

/** Another hand saved the rig meanwhile: which of the two stands is the person's to say. */
const Meanwhile = ({
  mine,
  theirs,
  takeMine,
  takeTheirs,
}: {
  mine: RigDoc;
  theirs: RigDoc;
  takeMine: () => void;
  takeTheirs: () => void;
}) => (
  <Over
    open
    close={() => undefined}
    title="Somebody else changed this rig meanwhile"
    size="sm"
    foot={
      <>
        <Plain onClick={takeTheirs}>Take what is there</Plain>
        <Plain tone="strong" onClick={takeMine}>
          Put mine in its place
        </Plain>
      </>
    }
  >
    <Dialog.Body>
      <Box>What is there now and what you have differ in:</Box>
      <Box as="ul" pl="5" listStyleType="disc">
        {differing(mine, theirs).map((name) => (
          <Box as="li" key={name}>
            {name}
          </Box>
        ))}
      </Box>
    </Dialog.Body>
  </Over>
);

/** The fields of one part. */
const Fields = ({ part, form, close }: { part: Part; form: UseFormReturn<RigDoc>; close: () => void }) => {
  const remove = (list: List, index: number) => {
    const left = (form.getValues(list) ?? []).filter((_, at) => at !== index);
    form.setValue(list, left as never, { shouldDirty: true });
    close();
  };
  if (part.place === "crew") return <CrewFields />;
  if (part.place === "inverter")
    return (
      <InverterFields
        remove={() => {
          form.setValue("inverter", null, { shouldDirty: true });
          close();
        }}
      />
    );
  const { list, index } = part;
  if (list === "stores") return <StoreFields index={index} remove={() => remove("stores", index)} />;
  return list && <PartFields list={list} index={index} name={part.name} remove={() => remove(list, index)} />;
};

/** What the set-up put aboard, and why: to be looked through once. */
const PutAboard = ({ put }: { put: Schemas["RigOut"]["put_aboard"] }) =>
  put.length === 0 ? null : (
    <Box asChild mt="3">
      <details>
        <chakra.summary cursor="pointer" py="1" minH="11" color="soft">
          What set-up put aboard, and why
        </chakra.summary>
        <Box as="ul" listStyleType="none" fontSize="sm" aria-label="Put aboard by set-up">
          {put.map((each) => (
            <Box as="li" key={each.place} py="0.5">
              {each.words}
            </Box>
          ))}
        </Box>
      </details>
    </Box>
  );

const RigSheet = ({ rig, saved }: { rig: number; saved: Schemas["RigOut"] }) => {
  const [open, setOpen] = useState<string | null>(null);
  const owns = saved.role === "owner";
  const { form, submit, discard, checks, conflict, takeMine, takeTheirs } = useRigForm(rig, saved, setOpen);
  const doc = useWatch({ control: form.control }) as RigDoc;
  const gauges = useQuery(get(rig, "/gauges")).data ?? [];
  const parts = partsOf(doc, saved.sheet);
  const { isDirty, isSubmitting, errors } = form.formState;
  const show = (place: string) => {
    setOpen(place);
    requestAnimationFrame(() =>
      document.querySelector(`[data-place="${place}"]`)?.scrollIntoView({ block: "nearest" }),
    );
  };
  const row = (part: Part) => (
    <PartRow
      key={part.place}
      part={part}
      number={part.list === "stores" ? part.index + 1 : undefined}
      worth={part.list === "stores" ? gauges.find((each) => `stores.${each.store}` === part.place)?.words : undefined}
      open={open === part.place}
      owns={owns}
      toggle={() => setOpen(open === part.place ? null : part.place)}
    >
      <Fields part={part} form={form} close={() => setOpen(null)} />
    </PartRow>
  );
  return (
    <FormProvider {...form}>
      <AboardContext value={{ units: saved.units, checks, cautions: saved.cautions, assumed: saved.assumed }}>
        <form noValidate onSubmit={(event) => void submit(event)}>
          <Drawing doc={doc} open={show} />
          <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} gap="6">
            <Section title="Stores and their lines">
              <Box color="soft" fontSize="sm">
                A store's lode line is the level at which it sends you away.
              </Box>
              <Checks place="weight" />
              <Box as="ul" listStyleType="none">
                {parts.stores.map(row)}
              </Box>
              {owns && <AddStore form={form} open={show} />}
              {owns && <AddSupplies form={form} open={show} />}
              <PutAboard put={saved.put_aboard} />
            </Section>
            <Box>
              <Section title="Crew">
                <Box as="ul" listStyleType="none">
                  {parts.crew.map(row)}
                </Box>
              </Section>
              <Section title="What charges and draws">
                <Checks place="loads" />
                <Box as="ul" listStyleType="none">
                  {parts.power.map(row)}
                </Box>
                {owns && <Adding form={form} open={show} />}
              </Section>
            </Box>
          </Grid>
          {isDirty && <KeepBar problem={errors.root?.server?.message} busy={isSubmitting} discard={discard} />}
        </form>
        {conflict && (
          <Meanwhile mine={conflict.mine} theirs={conflict.theirs.doc} takeMine={takeMine} takeTheirs={takeTheirs} />
        )}
      </AboardContext>
    </FormProvider>
  );
};

/** Everything aboard as a sheet: a drawing, a line a part, and one part at a time opened for change. */
export const RigView = () => {
  const rig = useRig();
  const known = useQuery(get(rig, ""));
  useTitle("Rig");
  if (known.isPending) return <Waiting what="the rig" />;
  if (known.isError && !known.data) return <Refused error={known.error} again={() => void known.refetch()} />;
  const saved = known.data;
  const owner = saved.role === "owner";
  return (
    <Box maxW="76rem" mx="auto">
      <Flex justify="space-between" align="baseline" wrap="wrap" mb="3">
        <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
          {saved.doc.name}
        </Heading>
        <HStack>
          {owner && <Copy rig={rig} />}
          <RouterLink to="/set-up">
            <Box as="span" textDecoration="underline">
              Set up another rig
            </Box>
          </RouterLink>
        </HStack>
      </Flex>
      <AsOf at={{ at: "", ...localOf(known.dataUpdatedAt) }} fetched={known.dataUpdatedAt} />
      {!owner && <Box mb="3">What is aboard is changed by its owner.</Box>}
      <RigSheet rig={rig} saved={saved} />
      <Compare rig={rig} saved={saved} />
      <Section title="Accounts">
        <CrewAccounts rig={rig} name={saved.doc.name} owner={owner} />
      </Section>
    </Box>
  );
};
