import { Box, Dialog } from "@chakra-ui/react";
import { useBlocker } from "react-router";

import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { hasUnsaved } from "../parts/unsaved";

/** Asks before something typed and not kept is left behind. */
export const Asks = ({ stay, leave }: { stay: () => void; leave: () => void }) => (
  <Over
    open
    close={stay}
    title="Leave what is not saved?"
    size="sm"
    foot={
      <>
        <Plain onClick={leave}>Leave it behind</Plain>
        <Plain tone="strong" onClick={stay}>
          Stay here
        </Plain>
      </>
    }
  >
    <Dialog.Body>
      <Box>Something on this page was changed and not saved yet.</Box>
    </Dialog.Body>
  </Over>
);

/** Stands between views. */
export const Leaving = () => {
  const block = useBlocker(
    ({ currentLocation, nextLocation }) =>
      hasUnsaved() && currentLocation.pathname + currentLocation.search !== nextLocation.pathname + nextLocation.search,
  );
  return block.state === "blocked" ? <Asks stay={() => block.reset()} leave={() => block.proceed()} /> : null;
};
