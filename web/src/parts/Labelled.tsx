import { Box, chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

import { Problem } from "./Notice";

/** A label over its field, with an optional remark under it, and what is wrong with it. */
export const Labelled = ({
  label,
  note,
  problem,
  id,
  children,
}: {
  label: string;
  note?: ReactNode;
  problem?: string;
  id?: string;
  children: ReactNode;
}) => (
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
    <Problem error={problem} id={id} />
  </Box>
);
