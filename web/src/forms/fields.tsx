import { Box, chakra, Flex, Input, Textarea } from "@chakra-ui/react";
import { type ComponentProps, type ReactNode, useId, useState } from "react";
import { useController, useFormContext } from "react-hook-form";

import type { Choices } from "../api/catalogue";
import { labelOf } from "../api/catalogue";
import { marked } from "../api/reader";
import { Select } from "../parts/Choose";
import { onKeys } from "../parts/keys";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { useTyped } from "./system";
import { isUnread, type Typed, typedNumber } from "./typed";

interface Common {
  /** The field's path in its form. */
  name: string;
  /** What stands over it; by its name where that is not given. */
  label?: string;
  note?: ReactNode;
  /** Told when the field is left with something new in it that may be kept. */
  onKeep?: () => void;
}

const look = { bg: "raised", borderColor: "edge" } as const;

/** What every field shares: its value, its problem, and how it is named. */
const useField = ({ name, label, onKeep }: Common) => {
  const { control } = useFormContext();
  const { field, fieldState } = useController({ name, control });
  const id = useId();
  const problem = fieldState.error?.message;
  return {
    field,
    problem,
    id,
    label: label ?? labelOf(name),
    aria: { "aria-invalid": problem !== undefined, "aria-describedby": problem ? id : undefined },
    leave: () => {
      field.onBlur();
      onKeep?.();
    },
  };
};

/** Enter in a field that is kept as it is left: it is left. In a form of its own, Enter is the form's. */
const keptOn = (onKeep?: () => void) => onKeep && onKeys({ Enter: (event) => (event.target as HTMLElement).blur() });

/** Between what is kept and what is shown; the same where it has no unit of its own. */
export interface Shown {
  unit: string;
  show: (base: number) => number;
  keep: (shown: number) => number;
}

const SAME: Shown = { unit: "", show: (value) => value, keep: (value) => value };

const textOf = (value: Typed | undefined, shown: Shown): string => {
  if (isUnread(value)) return value.text;
  if (value === null || value === undefined) return "";
  const text = String(Math.round(shown.show(value) * 1000) / 1000);
  // as the person writes it, unless that could be read as thousands
  return typeof typedNumber(marked(text)) === "number" ? marked(text) : text;
};

type NumberProps = Common & {
  unit?: string;
  /** What its number is in, where its label says so already. */
  reads?: string;
  shown?: Shown;
  size?: "md" | "lg";
  autoFocus?: boolean;
};

/** A number, in the unit that is shown. What is no number is kept as it was typed, and said to be none. */
export const NumberField = ({ unit, reads, shown = SAME, note, size = "md", autoFocus, ...common }: NumberProps) => {
  const understood = useTyped();
  const { field, problem, id, label, aria, leave } = useField(common);
  const [typing, setTyping] = useState<string | null>(null);
  const change = (text: string) => {
    const typed = understood(text, reads ?? unit ?? shown.unit);
    setTyping(text);
    field.onChange(typeof typed === "number" ? shown.keep(typed) : typed);
  };
  return (
    <Labelled
      label={unit || shown.unit ? `${label}, ${unit ?? shown.unit}` : label}
      note={note}
      problem={problem}
      id={id}
    >
      <Input
        {...look}
        {...aria}
        ref={field.ref}
        name={field.name}
        size={size}
        autoFocus={autoFocus}
        inputMode="decimal"
        autoComplete="off"
        value={typing ?? textOf(field.value as Typed, shown)}
        onChange={(event) => change(event.target.value)}
        onBlur={() => {
          setTyping(null);
          leave();
        }}
        onKeyDown={keptOn(common.onKeep)}
      />
    </Labelled>
  );
};

type TextProps = Common &
  Pick<ComponentProps<typeof Input>, "type" | "placeholder" | "autoComplete" | "size" | "autoFocus" | "min" | "max">;

/** A text, a password, a date or a time. */
export const TextField = ({ name, label: over, note, onKeep, ...input }: TextProps) => {
  const { field, problem, id, label, aria, leave } = useField({ name, label: over, onKeep });
  return (
    <Labelled label={label} note={note} problem={problem} id={id}>
      <Input
        {...look}
        {...aria}
        {...input}
        ref={field.ref}
        name={field.name}
        value={(field.value as string | null) ?? ""}
        onChange={field.onChange}
        onBlur={leave}
        onKeyDown={keptOn(onKeep)}
      />
    </Labelled>
  );
};

/** A text of some lines. */
export const NoteField = (common: Common) => {
  const { field, problem, id, label, aria, leave } = useField(common);
  return (
    <Labelled label={label} note={common.note} problem={problem} id={id}>
      <Textarea
        {...look}
        {...aria}
        ref={field.ref}
        name={field.name}
        value={(field.value as string | null) ?? ""}
        onChange={field.onChange}
        onBlur={leave}
      />
    </Labelled>
  );
};

/** How a value stands in a choice, where it is no text. */
export interface AsText {
  text: (value: unknown) => string;
  value: (text: string) => unknown;
}

const PLAIN: AsText = { text: (value) => (value as string | null) ?? "", value: (text) => text };
/** Nothing chosen is nothing. */
export const ORNONE: AsText = { text: PLAIN.text, value: (text) => text || null };

type ChoiceProps = Common & { options: Choices; as?: AsText; onChoose?: (value: string) => void };

/** One of some words. */
export const ChoiceField = ({ options, note, as = PLAIN, onChoose, ...common }: ChoiceProps) => {
  const { field, problem, id, label, aria, leave } = useField(common);
  return (
    <Labelled label={label} note={note} problem={problem} id={id}>
      <Select
        {...aria}
        ref={field.ref}
        name={field.name}
        options={options}
        value={as.text(field.value)}
        onChange={(event) => {
          field.onChange(as.value(event.target.value));
          onChoose?.(event.target.value);
        }}
        onBlur={leave}
      />
    </Labelled>
  );
};

interface CheckProps {
  name: string;
  label: string;
  /** Between what is kept and whether it is ticked. */
  on?: (value: unknown) => boolean;
  kept?: (ticked: boolean) => unknown;
}

/** Something that is so or is not. */
export const CheckField = ({ name, label, on = Boolean, kept = (ticked) => ticked || null }: CheckProps) => {
  const { field, problem, id } = useField({ name, label });
  return (
    <Box>
      <chakra.label display="flex" gap="2" minH="10" alignItems="center">
        <input
          type="checkbox"
          ref={field.ref}
          checked={on(field.value)}
          onChange={(event) => field.onChange(kept(event.target.checked))}
          onBlur={field.onBlur}
        />
        {label}
      </chakra.label>
      <Problem error={problem} id={id} />
    </Box>
  );
};

interface TicksProps<T> {
  name: string;
  label: string;
  options: readonly (readonly [T, string])[];
  note?: ReactNode;
}

/** Any of a few words; none ticked is nothing said. */
export const TicksField = <T,>({ name, label, options, note }: TicksProps<T>) => {
  const { field, problem, id } = useField({ name, label });
  const ticked = (field.value as T[] | null | undefined) ?? [];
  const turn = (value: T, on: boolean) => {
    const next = on ? [...ticked, value] : ticked.filter((each) => each !== value);
    field.onChange(next.length > 0 ? next : null);
  };
  return (
    <Box role="group" aria-label={label} fontSize="sm">
      <Flex gap="3" wrap="wrap" align="center">
        <Box color="soft">{label}</Box>
        {options.map(([value, words]) => (
          <chakra.label key={words} display="flex" gap="1" minH="8" alignItems="center">
            <input
              type="checkbox"
              checked={ticked.includes(value)}
              onChange={(event) => turn(value, event.target.checked)}
            />
            {words}
          </chakra.label>
        ))}
      </Flex>
      {note && <Box color="soft">{note}</Box>}
      <Problem error={problem} id={id} />
    </Box>
  );
};
