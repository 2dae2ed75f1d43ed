import { Box, Table } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** A plain table: heads and rows on the page itself. */
export const Sheet = ({ heads, rows }: { heads: string[]; rows: ReactNode[][] }) => (
  <Box overflowX="auto">
    <Table.Root
      size="sm"
      css={{ "& td, & th, & tr": { borderColor: "rule", bg: "transparent" }, "& td, & th": { px: "2" } }}
    >
      <Table.Header>
        <Table.Row>
          {heads.map((head) => (
            <Table.ColumnHeader key={head} color="soft">
              {head}
            </Table.ColumnHeader>
          ))}
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {rows.map((row, index) => (
          <Table.Row key={index}>
            {row.map((cell, column) => (
              <Table.Cell key={column} whiteSpace={column === 0 ? undefined : "nowrap"}>
                {cell}
              </Table.Cell>
            ))}
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  </Box>
);
