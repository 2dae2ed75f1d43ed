import { Box, Dialog, Portal } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";

import { Plain } from "../parts/Plain";
import { VIEWS } from "./Shell";

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** One key each, and the list of them on `?`. */
export const Shortcuts = () => {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return;
      const view = VIEWS.find((each) => each.key === event.key);
      if (view) void navigate(view.to);
      if (event.key === "n") document.getElementById("night")?.click();
      if (event.key === "?") setOpen(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [navigate]);
  return (
    <>
      <Plain
        display={{ base: "none", md: "inline-block" }}
        onClick={() => setOpen(true)}
        aria-label="Keyboard shortcuts"
      >
        ?
      </Plain>
      <Dialog.Root open={open} onOpenChange={(change) => setOpen(change.open)} size="xs">
        <Portal>
          <Dialog.Backdrop />
          <Dialog.Positioner>
            <Dialog.Content bg="raised">
              <Dialog.Header>
                <Dialog.Title fontFamily="heading">Keys</Dialog.Title>
              </Dialog.Header>
              <Dialog.Body>
                <Box as="dl" display="grid" gridTemplateColumns="4rem 1fr" rowGap="2">
                  {[
                    ...VIEWS.map((view) => [view.key, view.label] as const),
                    ["n", "Day or night"] as const,
                    ["Enter", "Keep a reading, open a day or a lane"] as const,
                    ["Esc", "Close what is open"] as const,
                    ["?", "This list"] as const,
                  ].map(([key, what]) => (
                    <Box key={key} display="contents">
                      <Box as="dt" fontWeight="700">
                        {key}
                      </Box>
                      <Box as="dd">{what}</Box>
                    </Box>
                  ))}
                </Box>
              </Dialog.Body>
              <Dialog.Footer>
                <Plain onClick={() => setOpen(false)}>Close</Plain>
              </Dialog.Footer>
            </Dialog.Content>
          </Dialog.Positioner>
        </Portal>
      </Dialog.Root>
    </>
  );
};
