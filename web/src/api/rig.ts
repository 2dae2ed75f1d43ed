import { useSuspenseQuery } from "@tanstack/react-query";
import { createContext, useContext, useSyncExternalStore } from "react";

import { meQuery } from "./queries";
import { small } from "./small";

const KEY = "lodeline-rig";
const listeners = new Set<() => void>();

/** The rig that is looked at; kept on this device. */
export const RigContext = createContext<number>(0);
export const useRig = (): number => useContext(RigContext);

const keptRig = (): number => Number(small.get(KEY) ?? 0);

/** Look at another rig from now on, wherever in the application that is said. */
export const keepRig = (rig: number): void => {
  small.set(KEY, String(rig));
  listeners.forEach((notify) => notify());
};

const subscribe = (notify: () => void) => {
  listeners.add(notify);
  return () => void listeners.delete(notify);
};
export const useKeptRig = (): number => useSyncExternalStore(subscribe, keptRig);

export const useMe = () => useSuspenseQuery(meQuery).data;

/** Whether this account may write to the rig, and whether it is its owner. */
export const useRole = (): { writes: boolean; owns: boolean } => {
  const rig = useRig();
  const role = useMe().rigs.find((each) => each.id === rig)?.role;
  return { writes: role === "owner" || role === "crew", owns: role === "owner" };
};
