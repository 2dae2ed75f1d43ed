import { chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useSetAboard } from "../api/water";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { Plain } from "../parts/Plain";
import { Draft, Entry } from "../forms/Draft";

type Water = Schemas["WaterOut"];
type Key = Exclude<keyof Schemas["GearOut"], "cart">;

/** What is asked: its name, how it is called, and what its number is in. */
const fields = (water: Water): [Key, string, string?][] => [
  ["heater", `Water heater holds, ${water.unit}`, water.unit],
  ["heater_temp", `Its water, ${water.temp_unit}`, water.temp_unit],
  ["heater_w", "Its element, W", "W"],
  ["head_per_min", `Shower head, ${water.unit} a minute`, water.unit],
  ["shower_min", "Minutes of a shower", "min"],
  ["hose_per_min", `Usual tap, ${water.unit} a minute`, water.unit],
  ["filter", `Filter is good for, ${water.unit}`, water.unit],
  ["filter_days", "Filter, days"],
  ["disinfect_days", "Disinfect the tank every, days"],
  ["heat_w", "Heat that keeps a tank from freezing, W", "W"],
];

/** Heater, shower head, filter and hose, asked once. */
export const Gear = ({ water }: { water: Water }) => {
  const { owns } = useRole();
  const set = useSetAboard(useRig(), water.revision);
  const understood = useTyped();
  const [typed, setTyped] = useState<Partial<Record<Key, string>> | null>(null);
  const [cart, setCart] = useState(water.gear.cart);
  const [problem, setProblem] = useState<string | null>(null);
  if (!owns) return null;
  if (typed === null)
    return (
      <Plain size="sm" mt="2" onClick={() => setTyped({})}>
        Heater, filter and hose
      </Plain>
    );
  const textOf = (key: Key): string => typed[key] ?? (water.gear[key] === null ? "" : String(water.gear[key]));
  const save = () => {
    const gear: Partial<Record<Key, number | null>> = {};
    for (const [key, label, unit] of fields(water)) {
      const value = understood(textOf(key), unit);
      if (isUnread(value)) return setProblem(`${label}: ${value.problem}`);
      gear[key] = value;
    }
    setProblem(null);
    set.mutate({ gear: { ...gear, cart } }, { onSuccess: () => setTyped(null) });
  };
  return (
    <Draft
      name="Save the gear"
      save={save}
      cancel={() => setTyped(null)}
      saving={set.isPending}
      problem={problem ?? set.error}
    >
      <Flex gap="3" wrap="wrap" align="end">
        {fields(water).map(([key, label]) => (
          <Entry
            key={key}
            label={label}
            width="10rem"
            value={textOf(key)}
            change={(value) => setTyped({ ...typed, [key]: value })}
          />
        ))}
        <chakra.label display="flex" gap="2" minH="10" alignItems="center">
          <input type="checkbox" checked={cart} onChange={(event) => setCart(event.target.checked)} />
          jugs are wheeled on a cart
        </chakra.label>
      </Flex>
    </Draft>
  );
};
