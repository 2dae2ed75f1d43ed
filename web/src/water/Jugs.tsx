import { Box, chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useSetAboard } from "../api/water";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { Plain } from "../parts/Plain";
import { Draft as Editor, Entry } from "../forms/Draft";

type Water = Schemas["WaterOut"];

interface Draft {
  id: string;
  name: string;
  holds: string;
  where: string;
  drinkable: boolean;
  in_use: boolean;
}

const draftOf = ({ id, name, holds, where, drinkable, in_use }: Schemas["JugOut"]): Draft => ({
  id,
  name,
  holds: String(holds),
  where,
  drinkable,
  in_use,
});

const freshJug = (taken: Draft[]): Draft => {
  let n = taken.length + 1;
  while (taken.some((jug) => jug.id === `jug-${n}`)) n += 1;
  return { id: `jug-${n}`, name: `Jug ${n}`, holds: "10", where: "", drinkable: true, in_use: false };
};

/** The list of jugs while it is being changed. */
const Editing = ({ water, done }: { water: Water; done: () => void }) => {
  const set = useSetAboard(useRig(), water.revision);
  const understood = useTyped();
  const [jugs, setJugs] = useState(() => water.jugs.map(draftOf));
  const [problem, setProblem] = useState<string | null>(null);
  const change = (id: string, part: Partial<Draft>) =>
    setJugs(jugs.map((jug) => (jug.id === id ? { ...jug, ...part } : jug)));
  const save = () => {
    const read = jugs.map((jug) => ({ ...jug, holds: understood(jug.holds, water.unit) }));
    const wrong = read.find((jug) => typeof jug.holds !== "number" || jug.holds <= 0);
    if (wrong) {
      setProblem(isUnread(wrong.holds) ? wrong.holds.problem : `${wrong.name}: how much it holds must be over 0.`);
      return;
    }
    setProblem(null);
    set.mutate(
      { jugs: read.map((jug) => ({ ...jug, holds: jug.holds as number, where: jug.where || null })) },
      { onSuccess: done },
    );
  };
  return (
    <Editor
      name="Save the jugs"
      save={save}
      cancel={done}
      saving={set.isPending}
      problem={problem ?? set.error}
      more={
        <Plain size="sm" onClick={() => setJugs([...jugs, freshJug(jugs)])}>
          Add a jug
        </Plain>
      }
    >
      {jugs.map((jug) => (
        <Flex key={jug.id} gap="2" wrap="wrap" align="end" mb="2" role="group" aria-label={jug.name}>
          <Entry
            text
            label="Name or number"
            width="8rem"
            value={jug.name}
            change={(name) => change(jug.id, { name })}
          />
          <Entry
            label={`Holds, ${water.unit}`}
            width="6rem"
            value={jug.holds}
            change={(holds) => change(jug.id, { holds })}
          />
          <Entry
            text
            label="Where it is kept"
            width="10rem"
            value={jug.where}
            change={(where) => change(jug.id, { where })}
          />
          <chakra.label display="flex" gap="2" minH="10" alignItems="center">
            <input
              type="checkbox"
              checked={jug.drinkable}
              onChange={(event) => change(jug.id, { drinkable: event.target.checked })}
            />
            for drinking
          </chakra.label>
          <chakra.label display="flex" gap="2" minH="10" alignItems="center">
            <input
              type="checkbox"
              checked={jug.in_use}
              onChange={(event) => change(jug.id, { in_use: event.target.checked })}
            />
            in use as the tank
          </chakra.label>
          <Plain
            size="sm"
            aria-label={`Take ${jug.name} off the list`}
            onClick={() => setJugs(jugs.filter((each) => each.id !== jug.id))}
          >
            Remove
          </Plain>
        </Flex>
      ))}
    </Editor>
  );
};

/** Water that is carried, and what filling takes. */
export const Jugs = ({ water }: { water: Water }) => {
  const { owns } = useRole();
  const [editing, setEditing] = useState(false);
  return (
    <Box>
      {water.jugs_words && <Box mb="1">{water.jugs_words}</Box>}
      <Box as="ul" listStyleType="none" aria-label="Jugs">
        {water.jugs.map((jug) => (
          <li key={jug.id}>{jug.words}</li>
        ))}
      </Box>
      {water.jugs.length === 0 && <Box color="soft">No jugs are listed.</Box>}
      {owns && !editing && (
        <Plain size="sm" mt="2" onClick={() => setEditing(true)}>
          {water.jugs.length === 0 ? "Add jugs" : "Change the jugs"}
        </Plain>
      )}
      {editing && <Editing water={water} done={() => setEditing(false)} />}
      <Box mt="3">
        {water.filling.map((line) => (
          <Box key={line} mb="1">
            {line}
          </Box>
        ))}
      </Box>
    </Box>
  );
};
