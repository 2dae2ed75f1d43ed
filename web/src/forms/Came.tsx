import { Box, HStack } from "@chakra-ui/react";
import { useState } from "react";

import { sentenceOf } from "../api/client";
import { useTakeBack } from "../outbox/writes";
import { CAME, useCameOf } from "../outbox/writing";
import { useOnce } from "../parts/once";
import { Plain } from "../parts/Plain";

/** What was entered, and the receipt under which it was sent or waits. */
export interface Outcome {
  rig: number;
  kind: "reading" | "event";
  words: string;
  id: string;
}

/** What came of an entry, also after it was sent at last; one touch takes it back. */
export const Came = ({ rig, kind, words, id, kept }: Outcome & { kept: string }) => {
  const came = useCameOf(id);
  const once = useOnce();
  const takeBack = useTakeBack(rig);
  const [undone, setUndone] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const undo = () =>
    void once(id, () =>
      takeBack(kind, id, words).then(
        () => setUndone(true),
        (error: unknown) => setProblem(sentenceOf(error)),
      ),
    );
  if (undone) return <Box color="soft">{`Undone: ${words}`}</Box>;
  return (
    <>
      <HStack wrap="wrap">
        <Box color={came === "refused" ? "warn" : "good"}>{`${came === "kept" ? kept : CAME[came]}: ${words}`}</Box>
        {came !== "refused" && (
          <Plain size="sm" aria-label={`Undo: ${words}`} onMouseDown={(event) => event.preventDefault()} onClick={undo}>
            Undo
          </Plain>
        )}
      </HStack>
      {problem && <Box color="warn">{problem}</Box>}
    </>
  );
};
