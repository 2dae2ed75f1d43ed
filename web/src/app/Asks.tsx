import { Box, Dialog } from "@chakra-ui/react";

import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";

/** Asks before something typed and not kept is left behind; Enter stays. */
export const Asks = ({ stay, leave }: { stay: () => void; leave: () => void }) => (
  <Over
    open
    stands
    close={stay}
    title="Leave what is not saved?"
    size="sm"
    foot={
      <>
        <Plain tone="strong" onClick={stay}>
          Stay here
        </Plain>
        <Plain onClick={leave}>Leave it behind</Plain>
      </>
    }
  >
    <Dialog.Body>
      <Box>Something on this page was changed and not saved yet.</Box>
    </Dialog.Body>
  </Over>
);
