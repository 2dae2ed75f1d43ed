import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { useFieldArray, useFormContext } from "react-hook-form";

import { Plain } from "../parts/Plain";

interface Named {
  id: string;
  name: string;
}

/** A list of named things in a form: each may be taken off it, and one more put on it. */
export const Rows = <T extends Named>({
  name,
  add,
  fresh,
  children,
}: {
  name: string;
  /** What the button says that puts one more on it, and what that is. */
  add: string;
  fresh: (rows: T[]) => T;
  children: (at: string, row: T) => ReactNode;
}) => {
  const { control, getValues } = useFormContext();
  const { fields, append, remove } = useFieldArray({ control, name, keyName: "key" });
  const rows = () => (getValues(name) ?? []) as T[];
  return (
    <>
      {(fields as unknown as (T & { key: string })[]).map((row, index) => (
        <Flex key={row.key} gap="2" wrap="wrap" align="start" mb="3" role="group" aria-label={row.name}>
          {children(`${name}.${index}`, row)}
          <Box pt="6">
            <Plain size="sm" aria-label={`Take ${row.name} off the list`} onClick={() => remove(index)}>
              Remove
            </Plain>
          </Box>
        </Flex>
      ))}
      <Plain size="sm" onClick={() => append(fresh(rows()))}>
        {add}
      </Plain>
    </>
  );
};
