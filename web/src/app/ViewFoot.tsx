import { Box, HStack } from "@chakra-ui/react";
import { lazy, Suspense, useCallback, useState } from "react";
import { useLocation } from "react-router";

import { small } from "../api/small";
import { Plain } from "../parts/Plain";
import { VIEWS } from "./views";

const Help = lazy(async () => ({ default: (await import("./Help")).Help }));

const SEEN = "lodeline-seen-views";
const seen = (): string[] => (small.get(SEEN) ?? "").split(" ").filter(Boolean);

/** What a view is for, said on the first visit to it. */
export const FirstVisit = () => {
  const { pathname } = useLocation();
  const [known, setKnown] = useState(seen);
  const view = VIEWS.find((each) => each.to === pathname);
  if (!view || known.includes(pathname)) return null;
  const close = () => {
    const next = [...known, pathname];
    small.set(SEEN, next.join(" "));
    setKnown(next);
  };
  return (
    <HStack role="note" bg="sunken" px="3" py="1" mb="2" borderRadius="md" justify="space-between" className="no-print">
      <Box>
        {view.label}: {view.what}
      </Box>
      <Plain size="sm" onClick={close} aria-label={`${view.label} is known: do not say it again`}>
        Got it
      </Plain>
    </HStack>
  );
};

/** Under each view: what its words mean. */
export const ViewFoot = () => {
  const { pathname } = useLocation();
  const [open, setOpen] = useState(false);
  const close = useCallback(() => setOpen(false), []);
  if (!VIEWS.some((view) => view.to === pathname)) return null;
  return (
    <Box mt={{ base: "3", md: "6" }} className="no-print">
      <Plain onClick={() => setOpen(true)}>What does this mean?</Plain>
      {open && (
        <Suspense fallback={null}>
          <Help path={pathname} close={close} />
        </Suspense>
      )}
    </Box>
  );
};
