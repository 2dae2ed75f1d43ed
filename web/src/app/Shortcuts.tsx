import { Box, Dialog } from "@chakra-ui/react";
import { useCallback, useEffect, useState } from "react";
import { useNavigate } from "react-router";

import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { VIEWS } from "./Shell";

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** One key each, and the list of them on `?`. */
export const Shortcuts = () => {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const close = useCallback(() => setOpen(false), []);
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
      <Over open={open} close={close} title="Keys" foot={<Plain onClick={close}>Close</Plain>} size="xs">
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
      </Over>
    </>
  );
};
