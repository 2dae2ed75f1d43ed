import { createContext, useCallback, useContext } from "react";

import { useMe, useRig } from "../api/rig";
import type { System } from "../notation/shown";
import { type Typed, typedNumber } from "./typed";

/** The units of a rig that is yet to be made; of one that is there its people's own hold. */
export const SystemContext = createContext<System | null>(null);

/** The units that this rig's people think in: whose gallon they mean. */
const useSystem = (): System => {
  const rig = useRig();
  const own = useMe().rigs.find((each) => each.id === rig)?.units ?? "metric";
  return useContext(SystemContext) ?? own;
};

/** Understands a number that was typed where one in a unit is asked. */
export const useTyped = (): ((text: string, unit?: string | null) => Typed) => {
  const system = useSystem();
  return useCallback((text, unit) => typedNumber(text, { unit: unit ?? "", system }), [system]);
};
