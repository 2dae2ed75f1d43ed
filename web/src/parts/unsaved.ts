import { useEffect, useId } from "react";

/** What is typed and not kept, by the part that holds it. Whoever leads away from it asks first. */
const held = new Set<string>();

export const hasUnsaved = (): boolean => held.size > 0;

/** Say that this part holds something that is not kept. */
export const useUnsaved = (holds: boolean): void => {
  const id = useId();
  useEffect(() => {
    if (!holds) return;
    held.add(id);
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => {
      held.delete(id);
      window.removeEventListener("beforeunload", warn);
    };
  }, [holds, id]);
};
