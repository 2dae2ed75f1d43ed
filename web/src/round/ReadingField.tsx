import { Box, Grid, HStack, Input } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { Refusal, type Schemas } from "../api/client";
import type { Log } from "../api/logging";
import { understandQuery } from "../api/queries";
import { Plain } from "../parts/Plain";
import { useSettled } from "../parts/settled";
import { momentWords } from "../parts/words";

interface Props {
  rig: number;
  store: Schemas["RoundStore"];
  log: Log;
}

/** One store of the round: last and expected value, any notation, what was understood, kept on Enter or a mark. */
export const ReadingField = ({ rig, store, log }: Props) => {
  const [text, setText] = useState("");
  const [outcome, setOutcome] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const settled = useSettled(text, 250);
  const heard = useQuery(understandQuery(rig, store.id, settled));
  const current = settled === text && text.trim() !== "";
  const keep = async (typed: string) => {
    if (typed.trim() === "") return;
    setProblem(null);
    try {
      const done = await log({ rig, entry: { reading: { store: store.id, text: typed } } });
      setOutcome(done.waits ? `Waits for a signal: ${typed}` : `Saved: ${typed}`);
      setText("");
    } catch (error) {
      setProblem(error instanceof Error ? error.message : String(error));
    }
  };
  const refused = heard.error instanceof Refusal && heard.error.status === 422 ? heard.error.message : null;
  const echo = `echo-${store.id}`;
  return (
    <Box as="li" data-store={store.id} py="3" borderBottomWidth="1px" borderColor="rule">
      <Grid templateColumns={{ base: "1fr", md: "1fr 1fr" }} gap={{ base: "1", md: "4" }} alignItems="start">
        <Box>
          <Box asChild fontWeight="600" fontSize="lg">
            <label htmlFor={`read-${store.id}`}>{store.name}</label>
          </Box>
          <Box fontSize="sm" color="soft">
            {store.last && store.last_at ? `Last: ${store.last}, ${momentWords(store.last_at)}` : "No reading yet"}
          </Box>
          {store.worth && (
            <Box fontSize="sm" fontWeight="600" color="accent">
              {store.worth}
            </Box>
          )}
          {store.expected && (
            <Box fontSize="sm" color="soft">
              Expected now: {store.expected}
            </Box>
          )}
        </Box>
        <Box>
          <HStack>
            <Input
              id={`read-${store.id}`}
              value={text}
              size="lg"
              bg="raised"
              borderColor="edge"
              placeholder={store.example}
              autoComplete="off"
              aria-describedby={echo}
              onChange={(event) => {
                setText(event.target.value);
                setOutcome(null);
                setProblem(null);
              }}
              onKeyDown={(event) => event.key === "Enter" && void keep(text)}
              onBlur={() => text.trim() !== "" && !refused && void keep(text)}
            />
            <Plain
              tone="strong"
              minH="11"
              disabled={text.trim() === ""}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => void keep(text)}
            >
              Save
            </Plain>
          </HStack>
          {store.marks.length > 0 && (
            <HStack mt="2" role="group" aria-label={`Marks of ${store.name}`}>
              {store.marks.map((mark) => (
                <Plain key={mark.text} flex="1" onClick={() => void keep(mark.text)}>
                  {mark.label}
                </Plain>
              ))}
            </HStack>
          )}
          <Box id={echo} role="status" fontSize="sm" mt="1" minH="1.4em">
            {problem && <Box color="warn">{problem}</Box>}
            {outcome && !problem && <Box color="good">{outcome}</Box>}
            {current && refused && !problem && <Box color="warn">{refused}</Box>}
            {current && heard.data && (
              <>
                <Box>{heard.data.words}</Box>
                <Box color={heard.data.fits === false ? "warn" : "soft"}>{heard.data.fit_words}</Box>
              </>
            )}
            {text === "" && !outcome && !problem && <Box color="soft">{store.hint}</Box>}
          </Box>
        </Box>
      </Grid>
    </Box>
  );
};
