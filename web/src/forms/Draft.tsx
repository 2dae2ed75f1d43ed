import { Box, HStack, Input } from "@chakra-ui/react";
import type { ReactNode } from "react";

import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** A field of what is being said: text that is read when it is saved. */
export const Entry = ({
  label,
  value,
  change,
  width,
  text = false,
}: {
  label: string;
  value: string;
  change: (value: string) => void;
  width: string;
  /** Words, not a number. */
  text?: boolean;
}) => (
  <Box width={width}>
    <Labelled label={label}>
      <Input
        bg="raised"
        borderColor="edge"
        inputMode={text ? undefined : "decimal"}
        value={value}
        onChange={(event) => change(event.target.value)}
      />
    </Labelled>
  </Box>
);

/** What is being said, until it is saved or given up. */
export const Draft = ({
  name,
  save,
  cancel,
  saving,
  problem,
  more,
  children,
}: {
  name: string;
  save: () => void;
  cancel: () => void;
  saving: boolean;
  problem: unknown;
  more?: ReactNode;
  children: ReactNode;
}) => (
  <Box bg="sunken" p="3" borderRadius="md" mt="2">
    {children}
    <HStack mt="2" wrap="wrap">
      {more}
      <Plain size="sm" tone="strong" disabled={saving} onClick={save}>
        {name}
      </Plain>
      <Plain size="sm" onClick={cancel}>
        Cancel
      </Plain>
    </HStack>
    <Problem error={problem} />
  </Box>
);
