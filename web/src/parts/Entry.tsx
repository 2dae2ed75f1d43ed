import { Box, chakra, Input, NativeSelect } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";

import { Problem } from "./Notice";
import { typedNumber } from "./number";

/** A label over its field, with an optional remark under it. */
export const Labelled = ({ label, note, children }: { label: string; note?: ReactNode; children: ReactNode }) => (
  <Box>
    <chakra.label display="block">
      <Box fontSize="sm" color="soft" mb="1">
        {label}
      </Box>
      {children}
    </chakra.label>
    {note && (
      <Box fontSize="sm" color="soft" mt="1">
        {note}
      </Box>
    )}
  </Box>
);

interface NumberProps {
  label: string;
  unit?: string;
  value: number | null | undefined;
  onValue: (value: number | null) => void;
  note?: ReactNode;
  /** Numbers are kept when the field is left, so that a half-typed one is never sent. */
  step?: string;
}

const text = (value: number | null | undefined) =>
  value === null || value === undefined ? "" : String(Math.round(value * 1000) / 1000);

export const NumberEntry = ({ label, unit, value, onValue, note }: NumberProps) => {
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Box>
      <Labelled label={unit ? `${label}, ${unit}` : label} note={note}>
        <Input
          key={text(value)}
          bg="raised"
          borderColor="edge"
          inputMode="decimal"
          defaultValue={text(value)}
          aria-invalid={problem !== null}
          onBlur={(event) => {
            const typed = typedNumber(event.target.value);
            setProblem(typed.problem);
            // a form that holds it does not go off with the number of before
            event.target.setCustomValidity(typed.problem ?? "");
            if (typed.problem === null && typed.value !== (value ?? null)) onValue(typed.value);
          }}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
      </Labelled>
      <Problem error={problem} />
    </Box>
  );
};

interface TextProps {
  label: string;
  value: string;
  onValue: (value: string) => void;
}

export const TextEntry = ({ label, value, onValue }: TextProps) => (
  <Labelled label={label}>
    <Input
      key={value}
      bg="raised"
      borderColor="edge"
      defaultValue={value}
      onBlur={(event) => event.target.value !== value && onValue(event.target.value)}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  </Labelled>
);

interface ChoiceProps {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onValue: (value: string) => void;
}

export const Choice = ({ label, value, options, onValue }: ChoiceProps) => (
  <Labelled label={label}>
    <NativeSelect.Root>
      <NativeSelect.Field
        bg="raised"
        borderColor="edge"
        value={value}
        onChange={(event) => onValue(event.target.value)}
      >
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
  </Labelled>
);
