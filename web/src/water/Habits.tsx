import { Box, chakra, Flex, HStack } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { useRig, useRole } from "../api/rig";
import { useSetAboard } from "../api/water";
import { useTyped } from "../forms/system";
import { isUnread, type Typed } from "../forms/typed";
import { Select } from "../parts/Choose";
import { Labelled } from "../parts/Labelled";
import { Plain } from "../parts/Plain";
import { Draft as Editor, Entry } from "../forms/Draft";

type Water = Schemas["WaterOut"];
type Habit = Schemas["HabitOut"];

const DAYS = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const PER = [
  ["day", "a day"],
  ["week", "a week"],
] as const;
const WEEK = 7;
const TOUCHED = ["shower", "navy", "laundry", "dishes", "wiped"];

interface Draft {
  activity: Habit["activity"];
  name: string;
  times: string;
  per: string;
  own: string;
  notOn: number[];
  usual: string;
}

const short = (value: number): string => String(Math.round(value * 100) / 100);

const draftOf = (habit: Habit): Draft => {
  const weekly = habit.per_day > 0 && habit.per_day < 1;
  return {
    activity: habit.activity,
    name: habit.name,
    times: habit.per_day === 0 ? "" : short(weekly ? habit.per_day * WEEK : habit.per_day),
    per: weekly ? "week" : "day",
    own: habit.own_l === null ? "" : short(habit.own_l),
    notOn: habit.not_on,
    usual: habit.usual_l,
  };
};

const numberOf = (typed: Typed, name: string): number | string => {
  if (typed === null) return 0;
  if (isUnread(typed)) return typed.problem;
  return typed < 0 ? `${name}: must not be under 0.` : typed;
};

const One = ({ draft, unit, change }: { draft: Draft; unit: string; change: (part: Partial<Draft>) => void }) => (
  <Box role="group" aria-label={draft.name} borderTopWidth="1px" borderColor="rule" py="2">
    <Flex gap="3" wrap="wrap" align="end">
      <Box flex="1 1 9rem" fontWeight={600} pb="2">
        {draft.name.slice(0, 1).toUpperCase() + draft.name.slice(1)}
        <Box fontSize="sm" color="soft" fontWeight={400}>
          usually {draft.usual} each
        </Box>
      </Box>
      <Entry label="Times" width="5rem" value={draft.times} change={(times) => change({ times })} />
      <Labelled label="In">
        <Select
          width="7rem"
          options={PER}
          value={draft.per}
          onChange={(event) => change({ per: event.target.value })}
        />
      </Labelled>
      <Entry label={`One takes, ${unit}`} width="9rem" value={draft.own} change={(own) => change({ own })} />
    </Flex>
    {TOUCHED.includes(draft.activity) && draft.times !== "" && (
      <HStack mt="1" gap="3" wrap="wrap" fontSize="sm" role="group" aria-label={`${draft.name}: ashore on`}>
        <Box color="soft">Ashore on</Box>
        {DAYS.map((day, index) => (
          <chakra.label key={day} display="flex" gap="1" minH="8" alignItems="center">
            <input
              type="checkbox"
              checked={draft.notOn.includes(index)}
              onChange={(event) =>
                change({
                  notOn: event.target.checked ? [...draft.notOn, index] : draft.notOn.filter((on) => on !== index),
                })
              }
            />
            {day}
          </chakra.label>
        ))}
      </HStack>
    )}
  </Box>
);

/** The crew's habits with water, asked once in its own terms. All together: two people's showers count as two. */
const Editing = ({ water, done }: { water: Water; done: () => void }) => {
  const set = useSetAboard(useRig(), water.revision);
  const understood = useTyped();
  const [drafts, setDrafts] = useState(() => water.habits.map(draftOf));
  const [problem, setProblem] = useState<string | null>(null);
  const save = () => {
    const habits: Schemas["HabitIn"][] = [];
    for (const draft of drafts) {
      const times = numberOf(understood(draft.times), draft.name);
      const own = numberOf(understood(draft.own, water.unit), draft.name);
      if (typeof times === "string" || typeof own === "string") {
        setProblem(typeof times === "string" ? times : String(own));
        return;
      }
      if (times > 0)
        habits.push({
          activity: draft.activity as Schemas["HabitIn"]["activity"],
          per_day: draft.per === "week" ? times / WEEK : times,
          each: own > 0 ? own : null,
          not_on: draft.notOn,
        });
    }
    setProblem(null);
    set.mutate({ habits }, { onSuccess: done });
  };
  return (
    <Editor name="Save the habits" save={save} cancel={done} saving={set.isPending} problem={problem ?? set.error}>
      <Box color="soft" mb="2">
        How often all of you together do it aboard; empty is never. Drinking, cooking, hands and animals are reckoned by
        who is aboard. What varies is logged by one touch in the Round.
      </Box>
      {drafts.map((draft, index) => (
        <One
          key={draft.activity}
          draft={draft}
          unit={water.unit}
          change={(part) => setDrafts(drafts.map((each, at) => (at === index ? { ...each, ...part } : each)))}
        />
      ))}
    </Editor>
  );
};

export const Habits = ({ water }: { water: Water }) => {
  const { owns } = useRole();
  const [editing, setEditing] = useState(false);
  if (!owns) return null;
  return editing ? (
    <Editing water={water} done={() => setEditing(false)} />
  ) : (
    <Plain size="sm" mt="2" onClick={() => setEditing(true)}>
      {water.habits.some((habit) => habit.said) ? "Change your habits" : "Say how you live: dishes, showers, laundry"}
    </Plain>
  );
};
