import { zodResolver } from "@hookform/resolvers/zod";
import type { FormEvent, FormEventHandler, ReactNode } from "react";
import {
  type DefaultValues,
  type FieldError,
  type FieldValues,
  FormProvider,
  useForm,
  type UseFormReturn,
} from "react-hook-form";

import { Problem } from "../parts/Notice";
import { useUnsaved } from "../parts/unsaved";
import { pathsOf, place } from "./refusal";
import type { z } from "./schema";

/** What a form may hold. The fields hold what was typed, which need not be right yet. */
export type Schema<T> = z.ZodMiniType<T, T>;

interface Asked<T extends FieldValues> {
  schema: unknown;
  values: DefaultValues<T>;
  send: (typed: T, form: UseFormReturn<T>) => Promise<unknown>;
  /** Whether anything is lost with what is typed: nothing is with a question, or a password. */
  holds?: false | ((typed: T) => boolean);
  mode?: "onBlur" | "onChange" | "onSubmit";
}

export interface Draft<T extends FieldValues> {
  form: UseFormReturn<T>;
  submit: (event?: FormEvent) => Promise<void>;
}

/** The problems of a form, wherever they stand in it. */
const leaves = (errors: object): FieldError[] =>
  "type" in errors && typeof errors.type === "string"
    ? [errors as FieldError]
    : Object.values(errors).flatMap((each: unknown) => (typeof each === "object" && each ? leaves(each) : []));

/** The one way in which a form is made: what is typed in it is held until it is sent, a refusal stands at its field. */
export const useDraft = <T extends FieldValues>({
  schema,
  values,
  send,
  holds,
  mode = "onBlur",
}: Asked<T>): Draft<T> => {
  const form = useForm<T>({
    resolver: (typed, context, options) => {
      const now = typeof schema === "function" ? (schema as (typed: T) => unknown)(typed) : schema;
      return zodResolver(now as Schema<T>)(typed, context, options);
    },
    defaultValues: values,
    mode,
  });
  const { isDirty, isSubmitting } = form.formState;
  useUnsaved(isDirty && !isSubmitting && holds !== false && (holds?.(form.watch()) ?? true));
  const submit = form.handleSubmit(
    async (typed) => {
      try {
        await send(typed, form);
      } catch (error) {
        place(error, pathsOf(form.getValues()), form.setError);
      }
    },
    (errors) => {
      const found = leaves(errors);
      // what is wrong where no field is on the screen is said under them all
      if (!found.some(({ ref }) => ref)) form.setError("root.server", { message: found[0]?.message });
    },
  );
  return { form, submit };
};

/** A form's fields, with what is wrong with all of it under them. */
export const DraftForm = <T extends FieldValues>({
  of: { form, submit },
  id,
  onChange,
  children,
}: {
  of: Draft<T>;
  id?: string;
  onChange?: FormEventHandler;
  children: ReactNode;
}) => (
  <FormProvider {...form}>
    <form id={id} noValidate onSubmit={(event) => void submit(event)} onChange={onChange}>
      {children}
      <Problem error={form.formState.errors.root?.server?.message} />
    </form>
  </FormProvider>
);
