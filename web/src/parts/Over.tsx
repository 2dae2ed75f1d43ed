import { Dialog, Portal } from "@chakra-ui/react";
import { type ComponentProps, type ReactNode, useLayoutEffect, useRef } from "react";

import { onKeys } from "./keys";

/** Browser Back closes what is over the view, and leaves the view. */
const useBack = (open: boolean, close: () => void) => {
  const latest = useRef(close);
  useLayoutEffect(() => {
    latest.current = close;
  });
  useLayoutEffect(() => {
    if (!open) return;
    let gone = false;
    const here = window.location.href;
    window.history.pushState({ ...window.history.state, over: true }, "");
    const back = () => {
      gone = true;
      latest.current();
    };
    window.addEventListener("popstate", back);
    return () => {
      window.removeEventListener("popstate", back);
      const stillHere = window.location.href === here && (window.history.state as { over?: boolean } | null)?.over;
      if (!gone && stillHere) window.history.back();
    };
  }, [open]);
};

/**
 * A dialog over the view, in place at once. The library takes Escape only a frame after it has shown the dialog and
 * unmounts only when a fade has ended; a quick hand would be ignored. So Escape is taken here, and nothing fades.
 */
export const Over = ({
  open,
  close,
  title,
  foot,
  children,
  stands = false,
  ...root
}: {
  open: boolean;
  close: () => void;
  title: ReactNode;
  foot: ReactNode;
  children: ReactNode;
  /** It stands between two pages, where Back has a meaning of its own. */
  stands?: boolean;
} & Pick<ComponentProps<typeof Dialog.Root>, "size" | "placement">) => {
  useBack(open && !stands, close);
  useLayoutEffect(() => {
    if (!open) return;
    const onKey = onKeys({ Escape: close });
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [open, close]);
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(change) => !change.open && close()}
      closeOnEscape={false}
      // a dialog before it gives the focus back a moment late; only a touch outside closes this one
      onFocusOutside={(event) => event.preventDefault()}
      {...root}
    >
      <Portal>
        <Dialog.Backdrop animation="none" />
        <Dialog.Positioner>
          <Dialog.Content bg="raised" mx="3" animation="none">
            <Dialog.Header>
              <Dialog.Title fontFamily="heading">{title}</Dialog.Title>
            </Dialog.Header>
            {children}
            <Dialog.Footer flexWrap="wrap">{foot}</Dialog.Footer>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
};
