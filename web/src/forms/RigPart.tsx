import { Box, HStack } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { DefaultValues, FieldValues } from "react-hook-form";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { Conflict, useChangeRig } from "../api/mutations";
import { useRig, useRole } from "../api/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { DraftForm, useDraft } from "./form";
import type { RigDoc, Units } from "./rig";

type RigOut = Schemas["RigOut"];

interface Part<T extends FieldValues> {
  /** What its button says before it is opened, and the one that saves it. */
  open: string;
  save: string;
  /** The key of the document that it changes: another's change of that is not written over unasked. */
  about: keyof RigDoc;
  schema: (units: Units) => unknown;
  /** The part as its form begins with it, and the document with what was typed in it. */
  read: (rig: RigOut) => T;
  write: (typed: T, doc: RigDoc) => RigDoc;
  /** Beside the button that saves it. */
  more?: (rig: RigOut) => ReactNode;
  children: (rig: RigOut) => ReactNode;
}

const Editing = <T extends FieldValues>({ part, rig, done }: { part: Part<T>; rig: RigOut; done: () => void }) => {
  const change = useChangeRig(rig.id);
  const queries = useQueryClient();
  // what the part was read of; after somebody else's change what stands now, which is then changed knowingly
  const [base, setBase] = useState(rig);
  const draft = useDraft<T>({
    schema: part.schema(rig.units),
    values: part.read(rig) as DefaultValues<T>,
    send: async (typed) => {
      // what was changed elsewhere in the document stands beside this
      const isAsBegun = (now: RigOut) => JSON.stringify(now.doc[part.about]) === JSON.stringify(base.doc[part.about]);
      const on = (which: () => RigOut) =>
        change.mutateAsync(() => ({ doc: part.write(typed, which().doc), saw: which().revision }));
      const newest = () => {
        const held = queries.getQueryData(get(rig.id, "").queryKey);
        return held && held.revision > base.revision && isAsBegun(held) ? held : base;
      };
      try {
        await on(newest);
      } catch (error) {
        if (!(error instanceof Conflict)) throw error;
        setBase(error.stands);
        if (!isAsBegun(error.stands)) throw error;
        await on(() => error.stands);
      }
      done();
    },
  });
  return (
    <Box bg="sunken" p="3" borderRadius="md" mt="2">
      <DraftForm of={draft}>
        {part.children(rig)}
        <HStack mt="3" wrap="wrap">
          {part.more?.(rig)}
          <Plain type="submit" size="sm" tone="strong" disabled={draft.form.formState.isSubmitting}>
            {part.save}
          </Plain>
          <Plain size="sm" onClick={done}>
            Cancel
          </Plain>
        </HStack>
      </DraftForm>
    </Box>
  );
};

const Opened = <T extends FieldValues>({ part, done }: { part: Part<T>; done: () => void }) => {
  const rig = useQuery(get(useRig(), ""));
  // a form is not put back by an answer that comes meanwhile
  const [begun] = useState(() => Date.now());
  if (rig.isPending || (rig.isFetching && rig.dataUpdatedAt < begun && !rig.isError))
    return <Waiting what="what is aboard" why={rig.failureReason} />;
  if (!rig.data) return <Refused error={rig.error} again={() => void rig.refetch()} />;
  return <Editing part={part} rig={rig.data} done={done} />;
};

/** A part of the rig's document that is changed where it is used: a button, and its form. For owners. */
export const RigPart = <T extends FieldValues>(part: Part<T>) => {
  const { owns } = useRole();
  const [open, setOpen] = useState(false);
  if (!owns) return null;
  return open ? (
    <Opened part={part} done={() => setOpen(false)} />
  ) : (
    <Plain size="sm" mt="2" onClick={() => setOpen(true)}>
      {part.open}
    </Plain>
  );
};
