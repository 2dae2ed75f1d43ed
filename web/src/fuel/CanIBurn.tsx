import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";

import { useCanBurn } from "../api/fuel";
import type { Schemas } from "../api/client";
import { useRig } from "../api/rig";
import { Entry } from "../forms/Draft";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { Choose } from "../parts/Choose";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

type Fuel = Schemas["FuelOut"];

const HOW: Record<string, string> = { hours: "for so long", night: "all night", litres: "for hot water" };
const MINUTES = 60;

/** What an evening of oven, a night of heating or three showers take, and what is left. */
export const CanIBurn = ({ fuel }: { fuel: Fuel }) => {
  const ask = useCanBurn(useRig());
  const understood = useTyped();
  const [chosen, setChosen] = useState(fuel.asks[0]?.id ?? "");
  const [by, setBy] = useState("hours");
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const appliance = fuel.asks.find((each) => each.id === chosen);
  if (!appliance) return <Box color="soft">List what burns on the Rig view, and it can be asked here.</Box>;
  const how = appliance.by.includes(by) ? by : "hours";
  const fields: Record<string, { label: string; unit: string; usual: number }> = {
    hours: { label: "Minutes", unit: "min", usual: appliance.minutes },
    night: { label: `Outside, ${fuel.temp_unit}`, unit: fuel.temp_unit, usual: fuel.ask_night },
    litres: { label: `Hot water, ${fuel.volume_unit}`, unit: fuel.volume_unit, usual: fuel.ask_litres },
  };
  const field = fields[how] ?? { label: "Minutes", unit: "min", usual: appliance.minutes };
  const text = typed[how] ?? String(field.usual);
  const send = () => {
    const value = understood(text, field.unit);
    if (isUnread(value)) return setProblem(value.problem);
    if (value === null) return setProblem(`${field.label}: say a number.`);
    setProblem(null);
    ask.mutate({ appliance: appliance.id, [how]: how === "hours" ? value / MINUTES : value });
  };
  const choose = (id: string) => {
    setChosen(id);
    setTyped({});
    ask.reset();
  };
  return (
    <Box>
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          if (!appliance.first) send();
        }}
      >
        <Flex gap="3" wrap="wrap" align="end">
          <Choose
            label="Appliance"
            value={appliance.id}
            options={fuel.asks.map((each) => [each.id, each.name] as const)}
            onValue={choose}
          />
          {!appliance.first && appliance.by.length > 1 && (
            <Choose
              label="How"
              value={how}
              options={appliance.by.map((each) => [each, HOW[each] ?? each] as const)}
              onValue={setBy}
            />
          )}
          {!appliance.first && (
            <>
              <Entry
                label={field.label}
                width="8rem"
                value={text}
                change={(value) => setTyped({ ...typed, [how]: value })}
              />
              <Plain type="submit" tone="strong" disabled={ask.isPending}>
                Can I run it?
              </Plain>
            </>
          )}
        </Flex>
        {appliance.first && <Box mt="2">{appliance.first}</Box>}
        <Problem error={problem ?? ask.error} />
      </form>
      {ask.data && (
        <Box aria-live="polite" data-part="burn-answer" mt="3">
          {ask.data.words.map((line, index) => (
            <Box
              key={line}
              fontWeight={index === 0 ? 600 : undefined}
              color={index === 0 && ask.data.answer === "no" ? "warn" : "ink"}
            >
              {line}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
};
