import { zodResolver } from "@hookform/resolvers/zod";
import { type FieldValues, type Path, type PathValue, useForm } from "react-hook-form";

import { place } from "./refusal";
import { z } from "./schema";

/** A form whose fields are kept one by one, as each is left; what is refused stays as it was typed. */
export const useAtOnce = <T extends FieldValues>(
  schema: z.ZodMiniType<T, T>,
  values: T,
  fields: readonly string[],
  keep: (name: Path<T>, value: unknown) => Promise<unknown>,
) => {
  const form = useForm<T>({
    resolver: zodResolver(schema),
    values,
    // what is being typed is not put back by an answer that comes meanwhile
    resetOptions: { keepDirtyValues: true, keepErrors: true },
    mode: "onBlur",
  });
  const keepField = async (name: Path<T>) => {
    if (!form.getFieldState(name).isDirty) return;
    const value = form.getValues(name); // as it is left, whatever is touched next
    if (!(await form.trigger(name))) return;
    form.clearErrors("root.server");
    try {
      await keep(name, value);
      if (form.getValues(name) === value) form.resetField(name, { defaultValue: value as PathValue<T, Path<T>> });
    } catch (error) {
      place(error, fields, form.setError);
    }
  };
  return { form, keepField };
};
