import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { get, useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { keys } from "../api/keys";
import { keepRig, useMe } from "../api/rig";
import { Choose } from "../parts/Choose";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { Sheet } from "../parts/Sheet";
import { Section } from "./Section";

/** A copy of this rig with its log, to try a change on; the rig itself stays as it is. */
export const Copy = ({ rig }: { rig: number }) => {
  const queries = useQueryClient();
  const copy = useTell(rig, "post", "/copy");
  const made = async ({ id }: { id: number }) => {
    await queries.invalidateQueries({ queryKey: keys.me });
    keepRig(id);
  };
  return (
    <>
      <Plain
        disabled={copy.isPending}
        onClick={() => copy.mutate({ name: null }, { onSuccess: (each) => void made(each) })}
      >
        Copy this rig
      </Plain>
      <Problem error={copy.error} />
    </>
  );
};

type Line = Schemas["LineOut"];

const wordsOf = (line: Line | undefined): string => (line ? [line.name, line.words].filter(Boolean).join(": ") : "–");

/** What differs between this rig and another one, line by line, and how long each can stay. */
export const Compare = ({ rig, saved }: { rig: number; saved: Schemas["RigOut"] }) => {
  const others = useMe().rigs.filter((each) => each.id !== rig);
  const [chosen, setChosen] = useState("");
  const other = Number(chosen);
  const asks = chosen !== "";
  const there = useQuery({ ...get(other, ""), enabled: asks }).data;
  const [here, beside] = [
    useQuery({ ...get(rig, "/horizon"), enabled: asks }).data,
    useQuery({ ...get(other, "/horizon"), enabled: asks }).data,
  ];
  if (others.length === 0) return null;
  const places = [...new Set([...saved.sheet, ...(there?.sheet ?? [])].map((line) => line.place))];
  const lineOf = (sheet: Line[] | undefined, place: string) => wordsOf(sheet?.find((line) => line.place === place));
  const rows = places
    .map((place) => [lineOf(saved.sheet, place), lineOf(there?.sheet, place)] as const)
    .filter(([mine, its]) => mine !== its);
  return (
    <Section title="Compare">
      <Box maxW="16rem" mb="3">
        <Choose
          label="With"
          value={chosen}
          options={[["", "no other rig"], ...others.map((each): [string, string] => [String(each.id), each.name])]}
          onValue={setChosen}
        />
      </Box>
      {asks && there && (
        <Sheet
          name="What differs"
          heads={["", saved.doc.name, there.doc.name]}
          rows={[
            ["How long", here?.headline ?? "...", beside?.headline ?? "..."],
            ...rows.map(([mine, its], at) => [`${at + 1}`, mine, its]),
          ]}
        />
      )}
    </Section>
  );
};
