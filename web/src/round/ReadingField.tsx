import { Box, Grid, HStack, Input } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";

import { type Schemas, sentenceOf } from "../api/client";
import { line } from "../api/line";
import { understandQuery } from "../api/queries";
import { Came, type Outcome } from "../forms/Came";
import type { System } from "../notation/shown";
import { asLastTime, isUnclear, understand } from "../notation/understand";
import type { Write } from "../outbox/writing";
import { onKeys } from "../parts/keys";
import { useOnce } from "../parts/once";
import { Plain } from "../parts/Plain";
import { useSettled } from "../parts/settled";
import { useUnsaved } from "../parts/unsaved";
import { momentWords } from "../parts/words";
import type { Expected } from "./evening";

type Store = Schemas["RoundStore"];

interface Props {
  rig: number;
  store: Store;
  units: System;
  /** What is expected now, from the last forecast where there is no signal. */
  expected: Expected;
  /** What is on this device and not sent yet. */
  waiting: string | null;
  locked: boolean;
  log: Write;
  /** Go on to the next store; from the last one out of the fields. */
  next: () => void;
}

// more than these in a row do not fit a thumb
const MOST_MARKS = 5;

/** What is typed, as the gauge's mark says it where it is one. */
const labelOf = (store: Store, usual: string): string =>
  store.marks.find((mark) => mark.text === usual)?.label ?? usual;

const About = ({ store, expected, waiting }: Pick<Props, "store" | "expected" | "waiting">) => (
  <Box>
    <Box asChild fontWeight="600" fontSize={{ base: "md", md: "lg" }}>
      <label htmlFor={`read-${store.id}`}>{store.name}</label>
    </Box>
    <Box fontSize="sm" color="soft">
      {waiting
        ? `Last: ${waiting}, waits for a signal`
        : store.last && store.last_at
          ? `Last ${store.last}, ${momentWords(store.last_at)}`
          : "No reading yet"}
    </Box>
    {store.worth && (
      <Box fontSize="sm" fontWeight="600" color="accent">
        {store.worth}
      </Box>
    )}
    {expected.expected && (
      <Box fontSize="sm" color="soft" display={{ base: "none", md: "block" }}>
        Expected now: {expected.expected}
      </Box>
    )}
  </Box>
);

/** What a field holds and what came of it. */
const useReading = ({ rig, store, units, log, next }: Props) => {
  const [text, setText] = useState("");
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [left, setLeft] = useState(false);
  const [busy, setBusy] = useState(false);
  const lock = useRef(false);
  const once = useOnce();
  const shown = useRef("");
  const settled = useSettled(text, 250);
  const written = (typed: string) => asLastTime(store.reads, typed, units, store.last_in);
  const told = text.trim() === "" ? null : understand(store.reads, text, units);
  const heard = told && isUnclear(told) ? understand(store.reads, written(text), units) : told;
  const taken = told !== null && isUnclear(told) && heard !== null && !isUnclear(heard);
  // whether it fits takes the server; what it means does not
  const clear = settled === text && heard !== null && !isUnclear(heard) && line.isUp();
  const fit = useQuery(understandQuery(rig, store.id, clear ? written(settled) : "")).data;
  // an echo counts as seen once it is on the screen
  useEffect(() => {
    shown.current = text;
  }, [text]);
  useUnsaved(text.trim() !== "" && !busy);
  const put = (typed: string) => {
    setText(typed);
    setOutcome(null);
    setProblem(null);
    setLeft(false);
  };
  const keep = async (given: string, goOn: boolean) => {
    if (lock.current) return;
    if (given.trim() === "") return goOn ? next() : undefined;
    const typed = written(given);
    const meant = understand(store.reads, typed, units);
    if (isUnclear(meant)) return setProblem(meant.problem);
    lock.current = true;
    setBusy(true);
    setProblem(null);
    if (goOn) next();
    try {
      const words = `${store.name} ${typed.trim()}`;
      const done = await log({ what: { add: { reading: { store: store.id, text: typed } } }, words });
      put("");
      setOutcome({ rig, kind: "reading", words: meant.words, id: done.id });
    } catch (error) {
      setText(typed);
      setProblem(sentenceOf(error));
    } finally {
      lock.current = false;
      setBusy(false);
    }
  };
  const leave = () => {
    if (text.trim() === "" || lock.current) return;
    if (heard && !isUnclear(heard) && !taken && heard.complete && shown.current === text) void keep(text, false);
    else setLeft(true);
  };
  const touch = (typed: string) => void once(typed, () => keep(typed, false));
  return {
    text,
    put,
    keep,
    touch,
    leave,
    left,
    busy,
    heard,
    taken,
    ways: told && isUnclear(told) ? told.ways : [],
    outcome,
    problem,
    fit: settled === text ? fit : undefined,
  };
};

type Reading = ReturnType<typeof useReading>;

const Echo = ({ id, reading, hint }: { id: string; reading: Reading; hint: string }) => {
  const { text, heard, taken, ways, outcome, problem, left, fit, touch } = reading;
  const unclear = heard && isUnclear(heard) ? heard : null;
  return (
    <Box fontSize="sm" mt={{ base: "0", md: "1" }} minH={{ base: "0", md: "1.4em" }}>
      <Box id={id} role="status">
        {(problem ?? unclear?.problem) && <Box color="warn">{problem ?? unclear?.problem}</Box>}
        {outcome && !problem && <Came key={outcome.id} kept="Saved" {...outcome} />}
        {heard && !isUnclear(heard) && !problem && (
          <>
            <Box>
              {fit?.words ?? heard.words}
              {taken && ", as last time"}
            </Box>
            {fit && <Box color={fit.fits === false ? "warn" : "soft"}>{fit.fit_words}</Box>}
            {left && <Box color="warn">Not kept yet: press Enter or Save.</Box>}
          </>
        )}
        {text === "" && !outcome && !problem && (
          <Box color="soft" display={{ base: "none", md: "block" }}>
            {hint}
          </Box>
        )}
      </Box>
      {ways.length > 0 && (
        <HStack mt="1" role="group" aria-label="What is meant">
          {ways.map((way) => (
            <Plain key={way} onMouseDown={(event) => event.preventDefault()} onClick={() => touch(way)}>
              {way}
            </Plain>
          ))}
        </HStack>
      )}
    </Box>
  );
};

/** One store of the round: last and expected value, any notation, what was understood, kept on Enter or a touch. */
export const ReadingField = (props: Props) => {
  const { store, locked, expected } = props;
  const reading = useReading(props);
  const { text, put, keep, touch, leave, busy } = reading;
  const input = useRef<HTMLInputElement>(null);
  const [letters, setLetters] = useState(false);
  const entering = useRef(false);
  // the keyboard of a phone changes when its field is entered anew; what is typed is not left by that
  const turn = () => {
    flushSync(() => setLetters(!letters));
    entering.current = true;
    input.current?.blur();
    input.current?.focus();
    entering.current = false;
  };
  const echo = `echo-${store.id}`;
  return (
    <Box as="li" data-store={store.id} py={{ base: "1.5", md: "3" }} borderBottomWidth="1px" borderColor="rule">
      <Grid templateColumns={{ base: "1fr", md: "1fr 1fr" }} gap={{ base: "1", md: "4" }} alignItems="start">
        <About {...props} />
        <Box>
          <HStack>
            <Input
              id={`read-${store.id}`}
              ref={input}
              inputMode={letters ? "text" : "decimal"}
              value={text}
              size="lg"
              bg="raised"
              borderColor="edge"
              placeholder={store.example}
              autoComplete="off"
              autoCapitalize="off"
              spellCheck={false}
              enterKeyHint="next"
              readOnly={busy || locked}
              aria-describedby={echo}
              onChange={(event) => put(event.target.value)}
              onKeyDown={onKeys({ Enter: () => void keep(text, true) })}
              onBlur={() => !entering.current && leave()}
            />
            <Plain
              minH="11"
              color="soft"
              aria-label={`${letters ? "Number" : "Letter"} keyboard for ${store.name}`}
              css={{ display: "none", "@media (pointer: coarse)": { display: "inline-flex" } }}
              onMouseDown={(event) => event.preventDefault()}
              onClick={turn}
            >
              {letters ? "123" : "abc"}
            </Plain>
            {expected.usual && text === "" && (
              <Plain disabled={busy || locked} onClick={() => touch(expected.usual ?? "")}>
                {labelOf(store, expected.usual)} as expected
              </Plain>
            )}
            <Plain
              tone="strong"
              minH="11"
              display={{ base: text === "" && expected.usual ? "none" : "inline-flex", md: "inline-flex" }}
              disabled={text.trim() === "" || busy || locked}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => void keep(text, false)}
            >
              Save
            </Plain>
          </HStack>
          {store.marks.length > 0 && (
            <HStack
              mt="1"
              gap="1"
              display={{ base: store.marks.length > MOST_MARKS ? "none" : "flex", md: "flex" }}
              flexWrap="wrap"
              role="group"
              aria-label={`Marks of ${store.name}`}
            >
              {store.marks.map((mark) => (
                <Plain
                  key={mark.text}
                  flex="1"
                  minW={{ base: "11", md: "14" }}
                  px="1"
                  disabled={locked}
                  onClick={() => touch(mark.text)}
                >
                  {mark.label}
                </Plain>
              ))}
            </HStack>
          )}
          <Echo id={echo} reading={reading} hint={store.hint} />
        </Box>
      </Grid>
    </Box>
  );
};
