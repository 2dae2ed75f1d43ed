import { Box, chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** What is beside the point until somebody asks for it. */
export const Fold = ({ title, open, children }: { title: string; open?: boolean; children: ReactNode }) => (
  <Box asChild mb="2">
    <details open={open}>
      <chakra.summary cursor="pointer" py="1" fontWeight="600">
        {title}
      </chakra.summary>
      {children}
    </details>
  </Box>
);
