import { Box, chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";

import { useSetFuel } from "../api/fuel";
import { type Schemas, sentenceOf } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useDid } from "../forms/did";
import { Draft, Entry } from "../forms/Draft";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];

/** Days without supply that the crew wants to sit out, and whether the way to the pump is the line. */
const Editing = ({ fuel, done }: { fuel: Fuel; done: () => void }) => {
  const set = useSetFuel(useRig(), fuel.revision);
  const understood = useTyped();
  const [days, setDays] = useState<Record<string, string>>({});
  const [pump, setPump] = useState<Record<string, boolean>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const save = () => {
    const buffers: Schemas["BufferIn"][] = [];
    for (const stay of fuel.stays) {
      const value = understood(days[stay.store] ?? String(stay.buffer_days));
      if (isUnread(value)) return setProblem(`${stay.name}: ${value.problem}`);
      buffers.push({
        store: stay.store,
        buffer_days: value ?? 0,
        by_pump: stay.by_pump === null ? null : (pump[stay.store] ?? stay.by_pump),
      });
    }
    setProblem(null);
    set.mutate({ buffers }, { onSuccess: done });
  };
  return (
    <Draft name="Save what must stay" save={save} cancel={done} saving={set.isPending} problem={problem ?? set.error}>
      {fuel.stays.map((stay) => (
        <Flex key={stay.store} gap="3" wrap="wrap" align="end" mb="2" role="group" aria-label={stay.name}>
          <Entry
            label={`${stay.name}: days without supply to sit out`}
            width="16rem"
            value={days[stay.store] ?? String(stay.buffer_days)}
            change={(text) => setDays({ ...days, [stay.store]: text })}
          />
          {stay.by_pump !== null && (
            <chakra.label display="flex" gap="2" minH="10" alignItems="center">
              <input
                type="checkbox"
                checked={pump[stay.store] ?? stay.by_pump}
                onChange={(event) => setPump({ ...pump, [stay.store]: event.target.checked })}
              />
              the way to the next pump is its line
            </chakra.label>
          )}
        </Flex>
      ))}
    </Draft>
  );
};

/** The odometer as it stands: the way between two readings is known, whatever was logged of drives. */
const Odometer = ({ fuel }: { fuel: Fuel }) => {
  const { log, said } = useDid(useRig());
  const understood = useTyped();
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const send = () => {
    const value = understood(text, fuel.distance_unit);
    if (isUnread(value)) return setProblem(value.problem);
    if (value === null || value <= 0) return setProblem("Say what the odometer shows.");
    setProblem(null);
    log(`Odometer ${value} ${fuel.distance_unit}`, { type: "odometer", full: false, distance: value }).then(
      () => setText(""),
      (error: unknown) => setProblem(sentenceOf(error)),
    );
  };
  return (
    <Box mt="2">
      <Flex gap="2" align="end">
        <Entry label={`Odometer, ${fuel.distance_unit}`} width="10rem" value={text} change={setText} />
        <Plain onClick={send}>Log it</Plain>
      </Flex>
      <Problem error={problem} />
      {said}
    </Box>
  );
};

/** What must stay in each store, how far one gets above it, and how far a litre goes. */
export const MustStay = ({ fuel }: { fuel: Fuel }) => {
  const { owns, writes } = useRole();
  const [editing, setEditing] = useState(false);
  return (
    <Box>
      {fuel.range && <Box fontWeight="600">{fuel.range}</Box>}
      {fuel.stays.map((stay) => (
        <Box key={stay.store} mb="1">
          {stay.words}
        </Box>
      ))}
      {fuel.ways.map((way) => (
        <Box key={way}>{way}</Box>
      ))}
      {owns && !editing && fuel.stays.length > 0 && (
        <Plain size="sm" mt="2" onClick={() => setEditing(true)}>
          Days to sit out without supply
        </Plain>
      )}
      {editing && <Editing fuel={fuel} done={() => setEditing(false)} />}
      {writes && fuel.ways.length > 0 && <Odometer fuel={fuel} />}
    </Box>
  );
};
