import { Box, Flex } from "@chakra-ui/react";

import { CATALOGUE, choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { CheckField, ChoiceField, NumberField } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { shownIn } from "../forms/rig";
import { RigPart } from "../forms/RigPart";
import { schemaOf, z } from "../forms/schema";

interface Heated {
  heat: Schemas["HeatDoc"];
}

/** How the rig is built and how warm it is kept. */
export const HeatGear = ({ fuel }: { fuel: Schemas["FuelOut"] }) => (
  <RigPart<Heated>
    open="How the rig is built and heated"
    save="Save how it is heated"
    about="heat"
    schema={(units) => z.object({ heat: schemaOf(FIELDS.rig.of.heat, units) })}
    read={({ doc }) => ({ heat: { ...fuel.gear, ...(doc.heat ?? {}), night_c: fuel.gear.night_c } })}
    write={({ heat }, doc) => ({ ...doc, heat: { ...heat, night_off: heat.night_c === null || null } })}
  >
    {({ units }) => (
      <Flex gap="3" wrap="wrap" align="end">
        <ChoiceField name="heat.body" label="Built as" options={choices(CATALOGUE.bodies)} />
        <ChoiceField name="heat.insulation" label="Keeps its heat" options={choices(CATALOGUE.insulations)} />
        <Box width="11rem">
          <NumberField name="heat.living_m" label="Length that is heated" shown={shownIn("m", units)} />
        </Box>
        <Box width="11rem">
          <NumberField name="heat.glazing_m2" label="Windows" unit="m²" />
        </Box>
        <Box width="11rem">
          <NumberField name="heat.day_c" label="Inside by day" shown={shownIn("degC", units)} />
        </Box>
        <Box width="11rem">
          <NumberField name="heat.night_c" label="At night (empty: off)" shown={shownIn("degC", units)} />
        </Box>
        <Box width="11rem">
          <NumberField name="heat.night_from_h" label="Night from, hour" reads="h" />
        </Box>
        <Box width="11rem">
          <NumberField name="heat.night_until_h" label="until, hour" reads="h" />
        </Box>
        <Box width="11rem">
          <NumberField
            name="heat.away_c"
            label="With nobody aboard, against frost (empty: off)"
            shown={shownIn("degC", units)}
          />
        </Box>
        <CheckField name="heat.double_glazed" label="windows are double" />
        <CheckField name="heat.plugged" label="heated by mains while plugged in" />
      </Flex>
    )}
  </RigPart>
);
