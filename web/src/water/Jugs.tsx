import { Box } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { CheckField, NumberField, TextField } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { freshId, shownIn } from "../forms/rig";
import { RigPart } from "../forms/RigPart";
import { Rows } from "../forms/Rows";
import { schemaOf, z } from "../forms/schema";

type Water = Schemas["WaterOut"];
type Jug = Schemas["JugDoc"];
interface Held {
  jugs: Jug[];
}

const SPARE_L = 10;

const freshJug = (jugs: Jug[]): Jug => {
  const id = freshId(
    `jug-${jugs.length + 1}`,
    jugs.map((jug) => jug.id),
  );
  return { id, name: `Jug ${id.replace("jug-", "")}`, litres: SPARE_L };
};

/** Water that is carried, and what filling takes. */
export const Jugs = ({ water }: { water: Water }) => (
  <Box>
    {water.jugs_words && <Box mb="1">{water.jugs_words}</Box>}
    <Box as="ul" listStyleType="none" aria-label="Jugs">
      {water.jugs.map((jug) => (
        <li key={jug.id}>{jug.words}</li>
      ))}
    </Box>
    {water.jugs.length === 0 && <Box color="soft">No jugs are listed.</Box>}
    <RigPart<Held>
      open={water.jugs.length === 0 ? "Add jugs" : "Change the jugs"}
      save="Save the jugs"
      about="jugs"
      schema={(units) => z.object({ jugs: schemaOf(FIELDS.rig.of.jugs, units) })}
      read={({ doc }) => ({ jugs: doc.jugs ?? [] })}
      write={({ jugs }, doc) => ({ ...doc, jugs: jugs.map((jug) => ({ ...jug, where: jug.where || null })) })}
    >
      {({ units }) => (
        <Rows<Jug> name="jugs" add="Add a jug" fresh={freshJug}>
          {(at) => (
            <>
              <Box width="8rem">
                <TextField name={`${at}.name`} label="Name or number" />
              </Box>
              <Box width="6rem">
                <NumberField name={`${at}.litres`} label="Holds" shown={shownIn("L", units)} />
              </Box>
              <Box width="10rem">
                <TextField name={`${at}.where`} label="Where it is kept" />
              </Box>
              <Box pt="5">
                <CheckField
                  name={`${at}.drinkable`}
                  label="for drinking"
                  on={(value) => value !== false}
                  kept={(ticked) => (ticked ? null : false)}
                />
              </Box>
              <Box pt="5">
                <CheckField name={`${at}.in_use`} label="in use as the tank" />
              </Box>
            </>
          )}
        </Rows>
      )}
    </RigPart>
    <Box mt="3">
      {water.filling.map((line) => (
        <Box key={line} mb="1">
          {line}
        </Box>
      ))}
    </Box>
  </Box>
);
