import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { useNavigate } from "react-router";

import { onKeys } from "../parts/keys";
import { Plain } from "../parts/Plain";
import { VIEWS } from "./views";

const KeyList = lazy(async () => ({ default: (await import("./KeyList")).KeyList }));

/** The button that opens the search, wherever it is asked for. */
export const SEARCH = "search";
const Search = lazy(async () => ({ default: (await import("./Search")).Search }));

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** One key each, and the list of them on `?`. */
export const Shortcuts = () => {
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [searching, setSearching] = useState(false);
  const found = useCallback(() => setSearching(false), []);
  const close = useCallback(() => setOpen(false), []);
  useEffect(() => {
    const acts = onKeys({
      ...Object.fromEntries(VIEWS.map((view) => [view.key, () => void navigate(view.to)])),
      n: () => document.getElementById("night")?.click(),
      "/": () => setSearching(true),
      "?": () => setOpen(true),
    });
    const onKey = (event: KeyboardEvent) => {
      if (!typing(event.target) && !event.ctrlKey && !event.metaKey && !event.altKey) acts(event);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [navigate]);
  return (
    <>
      <Plain
        display={{ base: "none", md: "inline-block" }}
        onClick={() => setOpen(true)}
        aria-label="? Keyboard shortcuts"
      >
        ?
      </Plain>
      <Plain display={{ base: "none", md: "inline-flex" }} onClick={() => setSearching(true)} id={SEARCH}>
        Search
      </Plain>
      {searching && (
        <Suspense fallback={null}>
          <Search close={found} />
        </Suspense>
      )}
      {open && (
        <Suspense fallback={null}>
          <KeyList close={close} />
        </Suspense>
      )}
    </>
  );
};
