import { Box, Table } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A plain table: heads and rows on the page itself. What does not fit is scrolled, also by keyboard. */
export const Sheet = ({ name, heads, rows }: { name: string; heads: string[]; rows: ReactNode[][] }) => (
  <Box overflowX="auto" tabIndex={0} role="group" aria-label={name}>
    <Table.Root
      size="sm"
      css={{ "& td, & th, & tr": { borderColor: "rule", bg: "transparent" }, "& td, & th": { px: "2" } }}
    >
      <Table.Header>
        <Table.Row>
          {heads.map((head) => (
            <Table.ColumnHeader key={head} color="soft" scope="col">
              {head}
            </Table.ColumnHeader>
          ))}
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {rows.map((row, index) => (
          <Table.Row key={index}>
            {row.map((cell, column) =>
              column === 0 ? (
                <Table.Cell key={column} asChild>
                  <th scope="row" style={{ fontWeight: "inherit" }}>
                    {cell}
                  </th>
                </Table.Cell>
              ) : (
                <Table.Cell key={column} whiteSpace="nowrap">
                  {cell}
                </Table.Cell>
              ),
            )}
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  </Box>
);
