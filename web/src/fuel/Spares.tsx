import { Box } from "@chakra-ui/react";
import { useWatch } from "react-hook-form";

import { choices, kindOf } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { ChoiceField, NumberField, ORNONE, TextField } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { baseUnit, freshId, type RigDoc, shownIn, type Units } from "../forms/rig";
import { RigPart } from "../forms/RigPart";
import { Rows } from "../forms/Rows";
import { schemaOf, z } from "../forms/schema";

type Fuel = Schemas["FuelOut"];
type Spare = Schemas["SpareDoc"];
interface Carried {
  spares: Spare[];
}

const tanksOf = (doc: RigDoc) => doc.stores.filter((store) => kindOf(store.kind).contents.length > 0);

const fresh = (store: string) => (spares: Spare[]) => {
  const id = freshId(
    `spare-${spares.length + 2}`,
    spares.map((spare) => spare.id),
  );
  // what it holds is for its crew to say
  return { id, name: `Spare ${id.replace("spare-", "")}`, store, holds: null as unknown as number };
};

/** A bottle or can beside a store; what it holds is in that store's unit. */
const One = ({ at, doc, units }: { at: string; doc: RigDoc; units: Units }) => {
  const tanks = tanksOf(doc);
  const chosen = useWatch({ name: `${at}.store` }) as string;
  const tank = tanks.find((store) => store.id === chosen) ?? tanks[0];
  if (!tank) return null;
  const kind = kindOf(tank.kind);
  return (
    <>
      <Box width="9rem">
        <TextField name={`${at}.name`} label="Name" />
      </Box>
      <Box width="9rem">
        <ChoiceField name={`${at}.store`} label="Beside" options={choices(tanks)} />
      </Box>
      <Box width="7rem">
        <NumberField name={`${at}.holds`} label="Holds" shown={shownIn(baseUnit(tank), units)} />
      </Box>
      {kind.isGas ? (
        <Box width="9rem">
          <NumberField name={`${at}.tare_kg`} label="Empty weight" shown={shownIn("kg", units)} />
        </Box>
      ) : (
        <Box width="11rem">
          <ChoiceField
            name={`${at}.contents`}
            label="In it"
            as={ORNONE}
            options={[["", "what its store holds"], ...choices(kind.contents)]}
          />
        </Box>
      )}
      <Box width="10rem">
        <TextField name={`${at}.where`} label="Where it is kept" />
      </Box>
    </>
  );
};

/** Bottles and cans beside the stores. */
export const Spares = ({ fuel }: { fuel: Fuel }) =>
  fuel.carries ? (
    <RigPart<Carried>
      open={fuel.stores.some((store) => store.apart.length > 0) ? "Change bottles and cans" : "Add bottles and cans"}
      save="Save bottles and cans"
      about="spares"
      schema={(units) => z.object({ spares: schemaOf(FIELDS.rig.of.spares, units) })}
      read={({ doc }) => ({ spares: doc.spares ?? [] })}
      write={({ spares }, doc) => ({ ...doc, spares: spares.map((each) => ({ ...each, where: each.where || null })) })}
    >
      {({ doc, units }) => (
        <Rows<Spare> name="spares" add="Add a bottle or can" fresh={fresh(tanksOf(doc)[0]?.id ?? "")}>
          {(at) => <One at={at} doc={doc} units={units} />}
        </Rows>
      )}
    </RigPart>
  ) : null;
