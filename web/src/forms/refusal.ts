import type { FieldValues, Path, UseFormSetError } from "react-hook-form";

import { labelOf } from "../api/catalogue";
import { Refusal, sentenceOf } from "../api/client";
import { isUnread } from "./typed";

/** The server's place as a form names its fields: ``rig.stores[2].capacity`` is ``stores.2.capacity``. */
export const pathOf = (place: string): string =>
  place
    .replace(/^(entries\[\d+\]|rig|payload)\.?/, "")
    .replace(/^(event|reading)\./, "")
    .replace(/\[(\d+)\]/g, ".$1");

/** The field of a form that a refusal is about: by its path, else by the label beside it. */
export const fieldOf = (refusal: Refusal, fields: readonly string[]): string | null => {
  const path = pathOf(refusal.place);
  if (fields.includes(path)) return path;
  const near = fields.filter((field) => field.split(".").at(-1) === path.split(".").at(-1));
  if (near.length === 1) return near[0] ?? null;
  const named = refusal.label ? fields.filter((field) => labelOf(field) === refusal.label) : [];
  return named.length === 1 ? (named[0] ?? null) : null;
};

/** Put a refusal at its field; what has none stands under the form. */
export const place = <T extends FieldValues>(
  error: unknown,
  fields: readonly string[],
  set: UseFormSetError<T>,
  focus = true,
) => {
  const field = error instanceof Refusal ? fieldOf(error, fields) : null;
  if (field === null) set("root.server", { type: "server", message: sentenceOf(error) });
  else set(field as Path<T>, { type: "server", message: (error as Refusal).message }, { shouldFocus: focus });
};

/** The fields of a form by their paths, so that a refusal finds its own. */
export const pathsOf = (value: unknown, path = ""): string[] => {
  if (value === null || typeof value !== "object" || isUnread(value)) return path ? [path] : [];
  const inner = Object.entries(value).flatMap(([key, each]) => pathsOf(each, path ? `${path}.${key}` : key));
  return path ? [path, ...inner] : inner;
};
