import { Box, HStack } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { WhichTime } from "../forms/WhichTime";
import type { Waiting } from "../outbox/device";
import { useRemove, useTakeBack } from "../outbox/writes";
import { Fold } from "../parts/Fold";
import { Problem } from "../parts/Notice";
import { useOnce } from "../parts/once";
import { useIsPhone } from "../parts/phone";
import { Plain } from "../parts/Plain";
import { clockWords, counted, timeWords } from "../parts/words";

interface Props {
  rig: number;
  entries: Schemas["EntryOut"][];
  /** What waits on this device. */
  added: Waiting[];
  saw: number;
  writes: boolean;
}

const Line = ({ time, words, undo }: { time: string; words: string; undo?: () => void }) => (
  <HStack justify="space-between">
    <Box>
      <Box as="span" color="soft" mr="2">
        {time}
      </Box>
      {words}
    </Box>
    {undo && (
      <Plain size="sm" aria-label={`Undo: ${words}`} onClick={undo}>
        Undo
      </Plain>
    )}
  </HStack>
);

const LAST = 3;
const row = { py: "1", borderBottomWidth: "1px", borderColor: "rule" } as const;

/** Today's log as it stands; a slip is undone, and the log's history keeps it. */
export const Entries = ({ rig, entries, added, saw, writes }: Props) => {
  const undo = useRemove(rig, saw);
  const undone = useTakeBack(rig);
  const once = useOnce();
  const phone = useIsPhone();
  if (entries.length + added.length === 0) return <Box color="soft">Nothing is logged today yet.</Box>;
  const takeBack = (each: Waiting) =>
    void once(each.id, () =>
      undone(each.what.add?.reading ? "reading" : "event", each.id, each.words).then(done, done),
    );
  // on a phone the last few are at hand
  const from = phone ? Math.max(0, entries.length - LAST) : 0;
  const kept = (entry: Schemas["EntryOut"]) => (
    <Box as="li" key={`${entry.kind}${entry.id}`} {...row}>
      <Line
        time={clockWords(entry.at)}
        words={entry.words}
        undo={
          writes
            ? () => void once(`${entry.kind}${entry.id}`, () => undo.mutateAsync(entry).then(done, done))
            : undefined
        }
      />
      {entry.near && (
        <Box color="warn" fontSize="sm">
          {entry.near}
        </Box>
      )}
      {writes && <WhichTime rig={rig} entry={entry} saw={saw} />}
    </Box>
  );
  return (
    <>
      {from > 0 && (
        <Fold title={counted(from, "earlier entry", "earlier entries")}>
          <Box as="ul" listStyleType="none">
            {entries.slice(0, from).map(kept)}
          </Box>
        </Fold>
      )}
      <Box as="ul" listStyleType="none">
        {entries.slice(from).map(kept)}
        {added.map((each) => (
          <Box as="li" key={each.id} {...row}>
            <Line
              time={timeWords(each.made_at)}
              words={`${each.words} (waits for a signal)`}
              undo={() => takeBack(each)}
            />
          </Box>
        ))}
      </Box>
      <Problem error={undo.error} />
    </>
  );
};

const done = () => undefined;
