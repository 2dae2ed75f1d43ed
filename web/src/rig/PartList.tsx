import { Box, Grid, HStack } from "@chakra-ui/react";

import { Choice, NumberEntry, TextEntry } from "../parts/Entry";
import { Plain } from "../parts/Plain";

/** How one field of a part is edited. */
export type Column<T> =
  | { key: keyof T & string; label: string; kind: "number"; unit?: string; factor?: number }
  | { key: keyof T & string; label: string; kind: "text" }
  | { key: keyof T & string; label: string; kind: "choice"; options: readonly (readonly [string, string])[] };

interface Props<T extends { id: string }> {
  title: string;
  parts: T[];
  columns: Column<T>[];
  assumed: (id: string, key: string) => boolean;
  change: (parts: T[]) => void;
  add: () => T;
}

/** A list of parts of one sort: arrays, sources, loads. */
export const PartList = <T extends { id: string }>({ title, parts, columns, assumed, change, add }: Props<T>) => {
  const set = (id: string, key: string, value: unknown) =>
    change(parts.map((part) => (part.id === id ? { ...part, [key]: value } : part)));
  return (
    <Box>
      {parts.length === 0 && <Box color="soft">None.</Box>}
      {parts.map((part) => (
        <Box
          key={part.id}
          role="group"
          aria-label={`${title}: ${part.id}`}
          py="2"
          borderBottomWidth="1px"
          borderColor="rule"
        >
          <Grid
            templateColumns={{ base: "1fr 1fr", md: `repeat(${Math.min(columns.length + 1, 6)}, 1fr)` }}
            gap="3"
            alignItems="end"
          >
            {columns.map((column) => {
              const value = part[column.key] as unknown;
              const label = assumed(part.id, column.key) ? `${column.label} (assumed)` : column.label;
              if (column.kind === "choice")
                return (
                  <Choice
                    key={column.key}
                    label={label}
                    value={String(value ?? "")}
                    options={column.options}
                    onValue={(next) => set(part.id, column.key, next)}
                  />
                );
              if (column.kind === "text")
                return (
                  <TextEntry
                    key={column.key}
                    label={label}
                    value={String(value ?? "")}
                    onValue={(next) => set(part.id, column.key, next)}
                  />
                );
              return (
                <NumberEntry
                  key={column.key}
                  label={label}
                  unit={column.unit}
                  value={value as number | null}
                  onValue={(next) => set(part.id, column.key, next)}
                />
              );
            })}
            <Plain size="sm" tone="warn" onClick={() => change(parts.filter((each) => each.id !== part.id))}>
              Remove {part.id}
            </Plain>
          </Grid>
        </Box>
      ))}
      <HStack mt="3">
        <Plain size="sm" onClick={() => change([...parts, add()])}>
          Add
        </Plain>
      </HStack>
    </Box>
  );
};
