import { Box, Grid, HStack, Input } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { client, Refusal, type Schemas, take } from "../api/client";
import { Plain } from "../parts/Plain";
import { whenWords } from "../parts/words";
import type { Waiting } from "./outbox";

const useSettled = (text: string, ms: number) => {
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(text), ms);
    return () => window.clearTimeout(timer);
  }, [text, ms]);
  return settled;
};

const useHeard = (rig: number, store: string, text: string) =>
  useQuery({
    queryKey: ["understand", rig, store, text],
    enabled: text.trim() !== "",
    retry: false,
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/rigs/{rig_id}/understand", {
          params: { path: { rig_id: String(rig) } },
          body: { store, text },
          signal,
        }),
      ),
  });

interface Props {
  rig: number;
  store: Schemas["RoundStore"];
  log: (entry: Waiting) => Promise<"kept" | "waits">;
}

/** One store of the round: last and expected value, any notation, what was understood, kept on Enter or a mark. */
export const ReadingField = ({ rig, store, log }: Props) => {
  const [text, setText] = useState("");
  const [said, setSaid] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const settled = useSettled(text, 250);
  const heard = useHeard(rig, store.id, settled);
  const current = settled === text && text.trim() !== "";
  const keep = async (typed: string) => {
    if (typed.trim() === "") return;
    setProblem(null);
    try {
      const done = await log({
        kind: "reading",
        rig,
        body: { store: store.id, text: typed },
      });
      setSaid(done === "kept" ? `Kept: ${typed}` : `Waits for a signal: ${typed}`);
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
            {store.last ? `Last: ${store.last}, ${whenWords(store.last_at ?? "")}` : "No reading yet"}
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
              placeholder={store.marks.length > 0 ? "2/3" : store.hint.split(/,| or | \(/)[0]}
              autoComplete="off"
              aria-describedby={echo}
              onChange={(event) => {
                setText(event.target.value);
                setSaid(null);
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
              Keep
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
            {said && !problem && <Box color="good">{said}</Box>}
            {current && refused && !problem && <Box color="warn">{refused}</Box>}
            {current && heard.data && (
              <>
                <Box>{heard.data.words}</Box>
                <Box color={heard.data.fits === false ? "warn" : "soft"}>{heard.data.fit_words}</Box>
              </>
            )}
            {text === "" && !said && !problem && <Box color="soft">{store.hint}</Box>}
          </Box>
        </Box>
      </Grid>
    </Box>
  );
};
