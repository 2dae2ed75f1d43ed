import { Box, Dialog } from "@chakra-ui/react";

import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { VIEWS } from "./views";

const KEYS = [
  ...VIEWS.map((view) => [view.key, view.label] as const),
  ["n", "Day or night"] as const,
  ["/", "Search"] as const,
  ["↑ ↓ ← →", "Go through stores, days and marks"] as const,
  ["Enter", "Save a reading, open a day or a lane"] as const,
  ["Esc", "Close what is open"] as const,
  ["?", "This list"] as const,
];

/** The keys and what each does. */
export const KeyList = ({ close }: { close: () => void }) => (
  <Over open close={close} title="Keys" foot={<Plain onClick={close}>Close</Plain>} size="xs">
    <Dialog.Body>
      <Box as="dl" display="grid" gridTemplateColumns="4rem 1fr" rowGap="2">
        {KEYS.map(([key, what]) => (
          <Box key={key} display="contents">
            <Box as="dt" fontWeight="700">
              {key}
            </Box>
            <Box as="dd">{what}</Box>
          </Box>
        ))}
      </Box>
    </Dialog.Body>
  </Over>
);
