import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { CheckField, NumberField, type Shown } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { shownIn, type Units } from "../forms/rig";
import { RigPart } from "../forms/RigPart";
import { schemaOf, z } from "../forms/schema";

type Doc = Schemas["WaterGearDoc"];
interface Gear {
  water: Doc;
}

const inUnit = (unit: string): Shown => ({ unit, show: (value) => value, keep: (value) => value });
const aMinute = (shown: Shown): Shown => ({ ...shown, unit: `${shown.unit} a minute` });

/** What is asked: its name, how it is called, and what its number is in. */
const fields = (units: Units): [keyof Doc, string, Shown][] => [
  ["heater_l", "Water heater holds", shownIn("L", units)],
  ["heater_c", "Its water", shownIn("degC", units)],
  ["heater_w", "Its element", inUnit("W")],
  ["head_l_per_min", "Shower head", aMinute(shownIn("L", units))],
  ["shower_min", "Minutes of a shower", inUnit("min")],
  ["hose_l_per_min", "Usual tap", aMinute(shownIn("L", units))],
  ["filter_l", "Filter is good for", shownIn("L", units)],
  ["filter_days", "Filter", inUnit("days")],
  ["disinfect_days", "Disinfect the tank every", inUnit("days")],
  ["heat_w", "Heat that keeps a tank from freezing", inUnit("W")],
];

/** Heater, shower head, filter and hose, asked once. */
export const Gear = () => (
  <RigPart<Gear>
    open="Heater, filter and hose"
    save="Save the gear"
    about="water"
    schema={(units) => z.object({ water: schemaOf(FIELDS.rig.of.water, units) })}
    read={({ doc }) => ({ water: doc.water ?? {} })}
    write={({ water }, doc) => ({ ...doc, water })}
  >
    {({ units }) => (
      <Flex gap="3" wrap="wrap" align="end">
        {fields(units).map(([name, label, shown]) => (
          <Box key={name} width="11rem">
            <NumberField name={`water.${name}`} label={label} shown={shown} />
          </Box>
        ))}
        <CheckField name="water.cart" label="jugs are wheeled on a cart" />
      </Flex>
    )}
  </RigPart>
);
