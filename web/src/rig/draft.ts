import { zodResolver } from "@hookform/resolvers/zod";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { useForm, type UseFormReturn, useWatch } from "react-hook-form";

import type { Schemas } from "../api/client";
import { Conflict, useChangeRig } from "../api/mutations";
import { checksQuery } from "../api/queries";
import { pathsOf, place } from "../forms/refusal";
import { type RigDoc, rigSchema, type Units } from "../forms/rig";
import { useSettled } from "../parts/settled";
import { useUnsaved } from "../parts/unsaved";
import { partOf } from "./parts";

const SETTLE_MS = 400;

/** The draft as it stands, once it can be read and has stood for a moment. */
const useSettledDraft = (form: UseFormReturn<RigDoc>, units: Units): RigDoc | null => {
  const text = JSON.stringify(useWatch({ control: form.control }));
  const hasSettled = useSettled(text, SETTLE_MS) === text;
  return useMemo(() => {
    const draft = JSON.parse(text) as RigDoc;
    return hasSettled && form.formState.isDirty && rigSchema(units).safeParse(draft).success ? draft : null;
  }, [text, hasSettled, form.formState.isDirty, units]);
};

/** Says at the fields what the server finds wrong with the draft, and takes it back when it is right again. */
const useRefused = (form: UseFormReturn<RigDoc>, error: Error | null) => {
  const { setError, clearErrors, getValues } = form;
  useEffect(() => {
    if (error) place(error, pathsOf(getValues()), setError, false);
    else clearErrors("root.server");
  }, [error, getValues, setError, clearErrors]);
};

/** The draft of a rig: what is being changed, tried out and saved. */
export const useRigForm = (rig: number, saved: Schemas["RigOut"], setOpen: (place: string | null) => void) => {
  const form = useForm<RigDoc>({
    resolver: zodResolver(rigSchema(saved.units)),
    defaultValues: saved.doc,
    mode: "onBlur",
  });
  const { isDirty } = form.formState;
  const draft = useSettledDraft(form, saved.units);
  const tried = useQuery(checksQuery(rig, draft));
  const save = useChangeRig(rig);
  const [conflict, setConflict] = useState<{ mine: RigDoc; theirs: Schemas["RigOut"] } | null>(null);
  // the revision that the draft was begun from, not the one that a later answer brings
  const [saw, setSaw] = useState(saved.revision);
  const { reset } = form;
  useRefused(form, tried.error);
  useUnsaved(isDirty);
  useEffect(() => {
    // what came from elsewhere is shown, unless something is being changed here
    if (isDirty) return;
    reset(saved.doc);
    setSaw(saved.revision);
  }, [isDirty, reset, saved.doc, saved.revision]);
  const put = async (doc: RigDoc, over: number) => {
    try {
      const answer = await save.mutateAsync(() => ({ doc, saw: over }));
      reset(answer.doc);
      setSaw(answer.revision);
      setConflict(null);
    } catch (error) {
      if (error instanceof Conflict) return setConflict({ mine: doc, theirs: error.stands });
      place(error, pathsOf(doc), form.setError);
      openFirst();
    }
  };
  // what is wrong in a part that is closed is shown by opening it
  const openFirst = () => {
    const first = pathsOf(form.getValues()).find((path) => form.getFieldState(path as "name").error?.message);
    if (first) setOpen(partOf(first, form.getValues()));
  };
  const submit = form.handleSubmit((doc) => put(doc, saw), openFirst);
  const discard = () => {
    reset(saved.doc);
    setConflict(null);
  };
  const takeTheirs = () => {
    if (!conflict) return;
    reset(conflict.theirs.doc);
    setSaw(conflict.theirs.revision);
    setConflict(null);
  };
  const takeMine = () => conflict && void put(conflict.mine, conflict.theirs.revision);
  const checks = (draft && tried.data) || saved.checks;
  return { form, submit, discard, checks, conflict, takeMine, takeTheirs };
};
