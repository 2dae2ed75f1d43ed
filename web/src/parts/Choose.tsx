import { NativeSelect } from "@chakra-ui/react";
import type { ComponentProps, ReactNode } from "react";

import { Labelled } from "./Labelled";

type Options = readonly (readonly [string, string])[];

/** A choice of one of some words. */
export const Select = ({
  options,
  width,
  ...field
}: { options: Options; width?: string } & ComponentProps<typeof NativeSelect.Field>) => (
  <NativeSelect.Root width={width}>
    <NativeSelect.Field bg="raised" borderColor="edge" {...field}>
      {options.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </NativeSelect.Field>
    <NativeSelect.Indicator />
  </NativeSelect.Root>
);

/** The same with its label, outside of a form. */
export const Choose = ({
  label,
  note,
  value,
  options,
  onValue,
}: {
  label: string;
  note?: ReactNode;
  value: string;
  options: Options;
  onValue: (value: string) => void;
}) => (
  <Labelled label={label} note={note}>
    <Select options={options} value={value} onChange={(event) => onValue(event.target.value)} />
  </Labelled>
);
