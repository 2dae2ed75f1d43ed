import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";

import { useSetFuel } from "../api/fuel";
import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useDid } from "../forms/did";
import { Draft, Entry } from "../forms/Draft";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];

const DAY_H = 24;

const Quiet = ({ fuel, done }: { fuel: Fuel; done: () => void }) => {
  const set = useSetFuel(useRig(), fuel.revision);
  const understood = useTyped();
  const [from, setFrom] = useState(String(fuel.quiet_from_h ?? 22));
  const [until, setUntil] = useState(String(fuel.quiet_until_h ?? 8));
  const [problem, setProblem] = useState<string | null>(null);
  const save = () => {
    const [start, end] = [understood(from, "h"), understood(until, "h")];
    for (const each of [start, end]) {
      if (isUnread(each)) return setProblem(each.problem);
      if (each !== null && (each < 0 || each > DAY_H)) return setProblem("An hour lies between 0 and 24.");
    }
    setProblem(null);
    set.mutate({ quiet: { from_h: start as number | null, until_h: end as number | null } }, { onSuccess: done });
  };
  return (
    <Draft name="Save the quiet hours" save={save} cancel={done} saving={set.isPending} problem={problem ?? set.error}>
      <Flex gap="3" wrap="wrap">
        <Entry label="Quiet from, hour" width="9rem" value={from} change={setFrom} />
        <Entry label="until, hour" width="9rem" value={until} change={setUntil} />
      </Flex>
      <Box color="soft" fontSize="sm" mt="1">
        Both empty: none are kept.
      </Box>
    </Draft>
  );
};

/** What a kilowatt-hour costs each way, whether the generator was worth carrying, its oil, quiet hours. */
export const Engines = ({ fuel }: { fuel: Fuel }) => {
  const { touch, said } = useDid(useRig());
  const { owns, writes } = useRole();
  const [editing, setEditing] = useState(false);
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
      {owns && !editing && (
        <Plain size="sm" mt="2" onClick={() => setEditing(true)}>
          Quiet hours
        </Plain>
      )}
      {editing && <Quiet fuel={fuel} done={() => setEditing(false)} />}
      {said}
    </Box>
  );
};
