import { useSuspenseQuery } from "@tanstack/react-query";
import { createContext, useContext } from "react";

import { meQuery } from "./queries";

const KEY = "lodeline-rig";

/** The rig that is looked at; kept on this device. */
export const RigContext = createContext<number>(0);
export const useRig = (): number => useContext(RigContext);

export const keptRig = (): number => Number(localStorage.getItem(KEY) ?? 0);
export const keepRig = (rig: number): void => localStorage.setItem(KEY, String(rig));

export const useMe = () => useSuspenseQuery(meQuery).data;
