import { Box, chakra, Input, NativeSelect } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A label over its field, with an optional remark under it. */
export const Labelled = ({ label, note, children }: { label: string; note?: ReactNode; children: ReactNode }) => (
  <chakra.label display="block">
    <Box fontSize="sm" color="soft" mb="1">
      {label}
    </Box>
    {children}
    {note && (
      <Box fontSize="sm" color="soft" mt="1">
        {note}
      </Box>
    )}
  </chakra.label>
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

export const NumberEntry = ({ label, unit, value, onValue, note }: NumberProps) => (
  <Labelled label={unit ? `${label}, ${unit}` : label} note={note}>
    <Input
      key={text(value)}
      bg="raised"
      borderColor="edge"
      inputMode="decimal"
      defaultValue={text(value)}
      onBlur={(event) => {
        const typed = event.target.value.trim().replace(",", ".");
        const next = typed === "" ? null : Number(typed);
        if (next !== null && Number.isNaN(next)) event.target.value = text(value);
        else if (next !== (value ?? null)) onValue(next);
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  </Labelled>
);

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
