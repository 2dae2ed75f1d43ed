import { useEffect } from "react";

import { useMe, useRig } from "../api/rig";

/** The page's title names the view and the rig. */
export const useTitle = (view: string): void => {
  const rig = useRig();
  const name = useMe().rigs.find((each) => each.id === rig)?.name;
  useEffect(() => {
    document.title = [view, name, "Lodeline"].filter(Boolean).join(" · ");
    return () => void (document.title = "Lodeline");
  }, [view, name]);
};
