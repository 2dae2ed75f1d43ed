import { Box, Grid } from "@chakra-ui/react";
import { useFieldArray, useFormContext } from "react-hook-form";

import type { Choices } from "../api/catalogue";
import { type AsText, ChoiceField, NumberField, type Shown, TextField } from "../forms/fields";
import { Plain } from "../parts/Plain";
import { type RigDoc } from "./fields";
import { Checks, useAssumed } from "./Section";

/** How one field of a part is edited. */
export type Column =
  | { key: string; label?: string; kind: "number"; unit?: string; shown?: Shown }
  | { key: string; label?: string; kind: "text" }
  | { key: string; label?: string; kind: "choice"; options: Choices; as?: AsText };

type List = "solar" | "sources" | "loads";
type Part = { id: string };

/** A list of parts of one sort: arrays, sources, loads. */
export const PartList = ({
  list,
  title,
  columns,
  add,
}: {
  list: List;
  title: string;
  columns: Column[];
  add: (taken: string[]) => Part;
}) => {
  const { control } = useFormContext<RigDoc>();
  const { fields, append, remove } = useFieldArray({ control, name: list, keyName: "key" });
  const assumed = useAssumed();
  const parts = fields as unknown as (Part & { key: string; name?: string })[];
  return (
    <Box>
      {parts.length === 0 && <Box color="soft">None.</Box>}
      {parts.map((part, index) => (
        <Box
          key={part.key}
          role="group"
          aria-label={`${title}: ${part.id}`}
          py="2"
          borderBottomWidth="1px"
          borderColor="rule"
        >
          <Checks place={`${list}.${part.id}`} />
          <Grid
            templateColumns={{ base: "1fr 1fr", md: `repeat(${Math.min(columns.length + 1, 6)}, 1fr)` }}
            gap="3"
            alignItems="start"
          >
            {columns.map((column) => {
              const shared = {
                name: `${list}.${index}.${column.key}`,
                label: column.label,
                note: assumed(`${list}.${part.id}.${column.key}`),
              };
              if (column.kind === "choice")
                return <ChoiceField key={column.key} {...shared} options={column.options} as={column.as} />;
              if (column.kind === "text") return <TextField key={column.key} {...shared} />;
              return <NumberField key={column.key} {...shared} unit={column.unit} shown={column.shown} />;
            })}
            <Plain size="sm" tone="warn" mt="6" onClick={() => remove(index)}>
              Remove {part.id}
            </Plain>
          </Grid>
        </Box>
      ))}
      <Plain size="sm" mt="3" onClick={() => append(add(parts.map((part) => part.id)) as never)}>
        Add
      </Plain>
    </Box>
  );
};
