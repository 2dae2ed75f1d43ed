import { chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";

import { CATALOGUE, choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { useSetFuel } from "../api/fuel";
import { useRig, useRole } from "../api/rig";
import { Draft, Entry } from "../forms/Draft";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { Choose } from "../parts/Choose";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];
type Given = Schemas["HeatIn"];

const NUMBERS = ["living", "glazing_m2", "day_temp", "night_temp", "night_from_h", "night_until_h"] as const;
type Key = (typeof NUMBERS)[number];

const labels = (fuel: Fuel): Record<Key, string> => ({
  living: `Length that is heated, ${fuel.length_unit}`,
  glazing_m2: "Windows, m²",
  day_temp: `Inside by day, ${fuel.temp_unit}`,
  night_temp: `At night, ${fuel.temp_unit} (empty: off)`,
  night_from_h: "Night from, hour",
  night_until_h: "until, hour",
});

const unitOf = (fuel: Fuel): Record<Key, string> => ({
  living: fuel.length_unit,
  glazing_m2: "m²",
  day_temp: fuel.temp_unit,
  night_temp: fuel.temp_unit,
  night_from_h: "h",
  night_until_h: "h",
});

/** How the rig is built and how warm it is kept. */
export const HeatGear = ({ fuel }: { fuel: Fuel }) => {
  const { owns } = useRole();
  const set = useSetFuel(useRig(), fuel.revision);
  const understood = useTyped();
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<Partial<Given>>({});
  const [typed, setTyped] = useState<Partial<Record<Key, string>>>({});
  const [problem, setProblem] = useState<string | null>(null);
  if (!owns) return null;
  if (!open)
    return (
      <Plain size="sm" mt="2" onClick={() => setOpen(true)}>
        How the rig is built and heated
      </Plain>
    );
  const { gear } = fuel;
  const words = labels(fuel);
  const textOf = (key: Key): string => typed[key] ?? (gear[key] === null ? "" : String(gear[key]));
  const save = () => {
    const numbers: Partial<Record<Key, number | null>> = {};
    for (const key of NUMBERS) {
      const value = understood(textOf(key), unitOf(fuel)[key]);
      if (isUnread(value)) return setProblem(`${words[key]}: ${value.problem}`);
      numbers[key] = value;
    }
    const { day_temp: day, night_from_h: from, night_until_h: until } = numbers;
    if (day == null || from == null || until == null) return setProblem("Say how warm it is by day, and the night.");
    setProblem(null);
    const heat = {
      body: gear.body as Given["body"],
      insulation: gear.insulation as Given["insulation"],
      double_glazed: gear.double_glazed,
      plugged: gear.plugged,
      ...chosen,
      ...numbers,
      day_temp: day,
      night_from_h: from,
      night_until_h: until,
    };
    set.mutate({ heat }, { onSuccess: () => setOpen(false) });
  };
  const check = (key: "double_glazed" | "plugged", label: string) => (
    <chakra.label display="flex" gap="2" minH="10" alignItems="center">
      <input
        type="checkbox"
        checked={chosen[key] ?? gear[key]}
        onChange={(event) => setChosen({ ...chosen, [key]: event.target.checked })}
      />
      {label}
    </chakra.label>
  );
  return (
    <Draft
      name="Save how it is heated"
      save={save}
      cancel={() => setOpen(false)}
      saving={set.isPending}
      problem={problem ?? set.error}
    >
      <Flex gap="3" wrap="wrap" align="end">
        <Choose
          label="Built as"
          value={chosen.body ?? gear.body}
          options={choices(CATALOGUE.bodies)}
          onValue={(body) => setChosen({ ...chosen, body: body as Given["body"] })}
        />
        <Choose
          label="Keeps its heat"
          value={chosen.insulation ?? gear.insulation}
          options={choices(CATALOGUE.insulations)}
          onValue={(insulation) => setChosen({ ...chosen, insulation: insulation as Given["insulation"] })}
        />
        {NUMBERS.map((key) => (
          <Entry
            key={key}
            label={words[key]}
            width="11rem"
            value={textOf(key)}
            change={(value) => setTyped({ ...typed, [key]: value })}
          />
        ))}
        {check("double_glazed", "windows are double")}
        {check("plugged", "heated by mains while plugged in")}
      </Flex>
    </Draft>
  );
};
