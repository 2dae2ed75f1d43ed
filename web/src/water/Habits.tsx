import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { useWatch } from "react-hook-form";

import type { Schemas } from "../api/client";
import { NumberField, type Shown, TicksField } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { shownIn } from "../forms/rig";
import { RigPart } from "../forms/RigPart";
import { schemaOf, z } from "../forms/schema";
import { Select } from "../parts/Choose";
import { Labelled } from "../parts/Labelled";

type Water = Schemas["WaterOut"];
interface Habits {
  habits: Schemas["HabitDoc"][];
}

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"].map((day, index) => [index, day] as const);
const PER = [
  ["day", "a day"],
  ["week", "a week"],
] as const;
const WEEK = 7;
const short = (times: number) => Math.round(times * 100) / 100;
const BY: Record<string, Shown> = {
  day: { unit: "", show: short, keep: (times) => times },
  week: { unit: "", show: (times) => short(times * WEEK), keep: (times) => times / WEEK },
};
const TOUCHED = ["shower", "navy", "laundry", "dishes", "wiped"];

const HABIT = FIELDS.rig.of.habits.of;
// what is never done has no number
const ROW = { ...HABIT, of: { ...HABIT.of, per_day: { ...HABIT.of.per_day, none: true } } } as const;

const One = ({ habit, at, litres }: { habit: Schemas["HabitOut"]; at: string; litres: Shown }) => {
  const weekly = habit.doc.per_day > 0 && habit.doc.per_day < 1;
  const [per, setPer] = useState(weekly ? "week" : "day");
  const times = useWatch({ name: `${at}.per_day` }) as unknown;
  return (
    <Box role="group" aria-label={habit.name} borderTopWidth="1px" borderColor="rule" py="2">
      <Flex gap="3" wrap="wrap" align="start">
        <Box flex="1 1 9rem" fontWeight={600} pb="2">
          {habit.name.slice(0, 1).toUpperCase() + habit.name.slice(1)}
          <Box fontSize="sm" color="soft" fontWeight={400}>
            usually {habit.usual} each
          </Box>
        </Box>
        <Box width="6rem">
          <NumberField name={`${at}.per_day`} label="Times" shown={BY[per]} />
        </Box>
        <Labelled label="In">
          <Select width="7rem" options={PER} value={per} onChange={(event) => setPer(event.target.value)} />
        </Labelled>
        <Box width="9rem">
          <NumberField name={`${at}.each_l`} label="One takes" shown={litres} />
        </Box>
      </Flex>
      {TOUCHED.includes(habit.doc.activity) && times !== null && times !== 0 && (
        <TicksField name={`${at}.not_on`} label="Ashore on" options={DAYS} />
      )}
    </Box>
  );
};

/** The crew's habits with water, asked once in its own terms. All together: two people's showers count as two. */
export const Habits = ({ water }: { water: Water }) => (
  <RigPart<Habits>
    open={
      water.habits.some((habit) => habit.said) ? "Change your habits" : "Say how you live: dishes, showers, laundry"
    }
    save="Save the habits"
    about="habits"
    schema={(units) => z.object({ habits: z.array(schemaOf(ROW, units)) })}
    read={() => ({
      habits: water.habits.map(({ doc }) => ({ ...doc, per_day: (doc.per_day || null) as number })),
    })}
    write={({ habits }, doc) => ({ ...doc, habits: habits.filter((habit) => habit.per_day) })}
  >
    {({ units }) => (
      <>
        <Box color="soft" mb="2">
          How often all of you together do it aboard; empty is never. Drinking, cooking, hands and animals are reckoned
          by who is aboard. What varies is logged by one touch in the Round.
        </Box>
        {water.habits.map((habit, index) => (
          <One key={habit.doc.activity} habit={habit} at={`habits.${index}`} litres={shownIn("L", units)} />
        ))}
      </>
    )}
  </RigPart>
);
