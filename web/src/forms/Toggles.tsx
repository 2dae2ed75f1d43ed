import { Box, HStack } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { useController, useFormContext } from "react-hook-form";

import type { Choices } from "../api/catalogue";
import { labelOf } from "../api/catalogue";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** One of a few words, one touch each; the word that is touched again is taken out. */
export const Toggles = ({
  name,
  label,
  options,
  mark,
  shown = (value) => (value as string | null) ?? null,
  kept = (word) => word,
  onKeep,
}: {
  name: string;
  label?: string;
  options: Choices;
  mark?: (value: string) => ReactNode;
  /** Between what is kept and the word that stands for it. */
  shown?: (value: unknown) => string | null;
  kept?: (word: string | null) => unknown;
  onKeep: () => void;
}) => {
  const { control } = useFormContext();
  const { field, fieldState } = useController({ name, control });
  const touch = (value: string) => {
    field.onChange(kept(shown(field.value) === value ? null : value));
    onKeep();
  };
  return (
    <Box role="group" aria-label={label ?? labelOf(name)}>
      <HStack wrap="wrap">
        {options.map(([value, words]) => (
          <Plain key={value} aria-pressed={shown(field.value) === value} onClick={() => touch(value)}>
            {mark?.(value)} {words}
          </Plain>
        ))}
      </HStack>
      <Problem error={fieldState.error?.message} />
    </Box>
  );
};
