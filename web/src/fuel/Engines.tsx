import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useDid } from "../forms/did";
import { NumberField } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { RigPart } from "../forms/RigPart";
import { schemaOf, z } from "../forms/schema";
import type { Typed } from "../forms/typed";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];

const USUAL = { from_h: 22, until_h: 8 };
const HOUR = { ...FIELDS.rig.of.quiet.of.from_h, none: true } as const;

/** Hours in which no engine and no generator runs. */
const Quiet = () => (
  <RigPart<{ quiet: { from_h: Typed; until_h: Typed } }>
    open="Quiet hours"
    save="Save the quiet hours"
    about="quiet"
    schema={() => z.object({ quiet: schemaOf({ is: "part", of: { from_h: HOUR, until_h: HOUR } }) })}
    read={({ doc }) => ({ quiet: doc.quiet ?? USUAL })}
    write={({ quiet }, doc) => ({
      ...doc,
      quiet: quiet.from_h === null && quiet.until_h === null ? null : (quiet as Schemas["QuietDoc"]),
    })}
  >
    {() => (
      <>
        <Flex gap="3" wrap="wrap">
          <Box width="9rem">
            <NumberField name="quiet.from_h" label="Quiet from, hour" reads="h" />
          </Box>
          <Box width="9rem">
            <NumberField name="quiet.until_h" label="until, hour" reads="h" />
          </Box>
        </Flex>
        <Box color="soft" fontSize="sm" mt="1">
          Both empty: none are kept.
        </Box>
      </>
    )}
  </RigPart>
);

/** What a kilowatt-hour costs each way, whether the generator was worth carrying, its oil, quiet hours. */
export const Engines = ({ fuel }: { fuel: Fuel }) => {
  const { touch, said } = useDid(useRig());
  const { writes } = useRole();
  return (
    <Box>
      {fuel.costs.length === 0 && <Box color="soft">Nothing but the sun charges the bank.</Box>}
      {fuel.costs.map((line) => (
        <Box key={line}>{line}</Box>
      ))}
      {fuel.generators.map((line) => (
        <Box key={line} mt="2">
          {line}
        </Box>
      ))}
      {fuel.oil.map((line) => (
        <Flex key={line} gap="3" align="center" wrap="wrap" mt="2">
          <Box>{line}</Box>
          {writes && (
            <Plain size="sm" onClick={() => touch("Changed the generator's oil", { type: "oil", full: false })}>
              Changed the oil
            </Plain>
          )}
        </Flex>
      ))}
      {fuel.quiet && <Box mt="2">{fuel.quiet}</Box>}
      <Quiet />
      {said}
    </Box>
  );
};
