import { Flex } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { useSetFuel } from "../api/fuel";
import { useRig, useRole } from "../api/rig";
import { Draft, Entry } from "../forms/Draft";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { Choose } from "../parts/Choose";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];

interface Row {
  id: string;
  name: string;
  store: string;
  holds: string;
  tare: string;
  contents: string | null;
  where: string;
}

const rowOf = (spare: Schemas["SpareOut"]): Row => ({
  ...spare,
  holds: String(spare.holds),
  tare: spare.tare === null ? "" : String(spare.tare),
});

const fresh = (rows: Row[], store: string): Row => {
  let n = rows.length + 2;
  while (rows.some((row) => row.id === `spare-${n}` || row.name === `Spare ${n}`)) n += 1;
  return { id: `spare-${n}`, name: `Spare ${n}`, store, holds: "", tare: "", contents: null, where: "" };
};

const CONTENTS = [
  ["", "what its store holds"],
  ["diesel", "diesel"],
  ["petrol", "petrol"],
  ["oil-mixed", "petrol with oil mixed in"],
  ["paraffin", "paraffin"],
] as const;

/** The list of bottles and cans while it is being changed. */
const Editing = ({ fuel, done }: { fuel: Fuel; done: () => void }) => {
  const set = useSetFuel(useRig(), fuel.revision);
  const understood = useTyped();
  const [rows, setRows] = useState(() => fuel.spares.map(rowOf));
  const [problem, setProblem] = useState<string | null>(null);
  const tanks = fuel.stores.filter((store) => fuel.tanks.includes(store.store));
  const gas = new Set(fuel.gas);
  const change = (id: string, part: Partial<Row>) =>
    setRows(rows.map((row) => (row.id === id ? { ...row, ...part } : row)));
  const save = () => {
    const spares: Schemas["SpareIn"][] = [];
    for (const row of rows) {
      const unit = gas.has(row.store) ? fuel.weight_unit : fuel.volume_unit;
      const holds = understood(row.holds, unit);
      const tare = understood(row.tare, fuel.weight_unit);
      if (isUnread(holds) || holds === null || holds <= 0)
        return setProblem(`${row.name}: how much it holds must be over 0.`);
      if (isUnread(tare)) return setProblem(`${row.name}: ${tare.problem}`);
      spares.push({
        id: row.id,
        name: row.name,
        store: row.store,
        holds,
        tare: gas.has(row.store) ? tare : null,
        contents: row.contents as Schemas["SpareIn"]["contents"],
        where: row.where || null,
      });
    }
    setProblem(null);
    set.mutate({ spares }, { onSuccess: done });
  };
  return (
    <Draft
      name="Save bottles and cans"
      save={save}
      cancel={done}
      saving={set.isPending}
      problem={problem ?? set.error}
      more={
        <Plain size="sm" onClick={() => setRows([...rows, fresh(rows, tanks[0]?.store ?? "")])}>
          Add a bottle or can
        </Plain>
      }
    >
      {rows.map((row) => (
        <Flex key={row.id} gap="2" wrap="wrap" align="end" mb="3" role="group" aria-label={row.name}>
          <Entry text label="Name" width="9rem" value={row.name} change={(name) => change(row.id, { name })} />
          <Choose
            label="Beside"
            value={row.store}
            options={tanks.map((tank) => [tank.store, tank.name] as const)}
            onValue={(store) => change(row.id, { store })}
          />
          <Entry
            label={`Holds, ${gas.has(row.store) ? fuel.weight_unit : fuel.volume_unit}`}
            width="7rem"
            value={row.holds}
            change={(holds) => change(row.id, { holds })}
          />
          {gas.has(row.store) ? (
            <Entry
              label={`Empty weight, ${fuel.weight_unit}`}
              width="9rem"
              value={row.tare}
              change={(tare) => change(row.id, { tare })}
            />
          ) : (
            <Choose
              label="In it"
              value={row.contents ?? ""}
              options={CONTENTS}
              onValue={(contents) => change(row.id, { contents: contents || null })}
            />
          )}
          <Entry
            text
            label="Where it is kept"
            width="10rem"
            value={row.where}
            change={(where) => change(row.id, { where })}
          />
          <Plain
            size="sm"
            aria-label={`Take ${row.name} off the list`}
            onClick={() => setRows(rows.filter((each) => each.id !== row.id))}
          >
            Remove
          </Plain>
        </Flex>
      ))}
    </Draft>
  );
};

/** Bottles and cans beside the stores. */
export const Spares = ({ fuel }: { fuel: Fuel }) => {
  const { owns } = useRole();
  const [editing, setEditing] = useState(false);
  if (!owns || fuel.tanks.length === 0) return null;
  return editing ? (
    <Editing fuel={fuel} done={() => setEditing(false)} />
  ) : (
    <Plain size="sm" onClick={() => setEditing(true)}>
      {fuel.spares.length === 0 ? "Add bottles and cans" : "Change bottles and cans"}
    </Plain>
  );
};
