import { Box, Flex, Input } from "@chakra-ui/react";
import { useState, useSyncExternalStore } from "react";

import { line } from "../api/line";
import { device, type Waiting, type What } from "../outbox/device";
import { outbox } from "../outbox/outbox";
import { useWaiting } from "../outbox/writing";
import { Labelled } from "../parts/Labelled";
import { Plain } from "../parts/Plain";
import { counted } from "../parts/words";

/** The text of a reading, which can be mended right here; other writes are sent again as they are. */
const typedOf = (what: What): string | null => what.add?.reading?.text ?? what.correct?.to.reading?.text ?? null;

const withText = (what: What, text: string): What => {
  if (what.add?.reading) return { add: { ...what.add, reading: { ...what.add.reading, text } } };
  if (what.correct?.to.reading) {
    const { entry, to } = what.correct;
    return { correct: { entry, to: { ...to, reading: { store: to.reading?.store ?? "", text } } } };
  }
  return what;
};

/** One write that was not kept: why, and what its maker does about it. */
const NotKept = ({ write, name }: { write: Waiting; name: string }) => {
  const typed = typedOf(write.what);
  const [text, setText] = useState(typed ?? "");
  const stale = write.state === "stale";
  const again = (saw: number | null) =>
    void outbox.mend(write, typed === null ? write.what : withText(write.what, text), write.words, saw);
  return (
    <Box as="li" py="2" borderTopWidth="1px" borderColor="rule">
      <Box fontWeight="600">
        {write.words}
        {name && `, ${name}`}
      </Box>
      <Box color="warn">
        {write.label && `${write.label}: `}
        {write.problem}
      </Box>
      {stale && <Box>There now: {write.stands ?? "nothing"}</Box>}
      <Flex gap="2" mt="1" wrap="wrap" align="end">
        {typed !== null && !stale && (
          <Box width="10rem">
            <Labelled label="Mend it">
              <Input bg="page" borderColor="edge" value={text} onChange={(event) => setText(event.target.value)} />
            </Labelled>
          </Box>
        )}
        {stale ? (
          <Plain size="sm" onClick={() => again(write.stands_at ?? write.saw)}>
            Put mine in its place
          </Plain>
        ) : (
          <Plain size="sm" onClick={() => again(write.saw)}>
            Send it again
          </Plain>
        )}
        <Plain size="sm" tone="warn" onClick={() => void outbox.discard(write.id)}>
          {stale ? "Keep what is there" : "Discard it"}
        </Plain>
      </Flex>
    </Box>
  );
};

const LOOSE =
  "This browser keeps nothing for this page: its storage is full, or this is a private window. " +
  "What you log is sent at once; without a signal it is lost when the page is closed.";

const waitWords = (count: number, trouble: string | null): string => {
  const waits = `${counted(count, "entry", "entries")} ${count === 1 ? "waits" : "wait"} on this device`;
  return trouble === null ? `${waits} and will be sent when there is a signal.` : `${waits}. ${trouble}`;
};

/** Says when there is no signal, how much waits on this device, and what was not taken, until somebody decides. */
export const Tray = ({ account, rigs }: { account: string; rigs: { id: number; name: string }[] }) => {
  const connected = useSyncExternalStore(line.subscribe, line.isUp);
  const all = useWaiting();
  const mine = all.filter((each) => each.account === account);
  const waiting = mine.filter((each) => each.state === "waiting");
  const refused = mine.filter((each) => each.state !== "waiting");
  const others = [...new Set(all.filter((each) => each.account !== account).map((each) => each.account))];
  const [open, setOpen] = useState(false);
  const loose = device.refuses();
  if (connected && all.length === 0 && !loose) return <Box role="status" />;
  const nameOf = (rig: number) => (rigs.length > 1 ? (rigs.find((each) => each.id === rig)?.name ?? "") : "");
  return (
    <Box bg="sunken" px={{ base: "3", md: "6" }} py="2" borderBottomWidth="1px" borderColor="rule">
      <Flex role="status" gap="3" align="center" wrap="wrap">
        <Box>
          {!connected && "No signal: what is shown may be old. "}
          {waiting.length > 0 && waitWords(waiting.length, outbox.trouble)}
          {loose && ` ${LOOSE}`}
          {others.length > 0 && ` Entries of ${others.join(", ")} wait here until they sign in again.`}
        </Box>
        {refused.length > 0 && (
          <Plain size="sm" tone="warn" aria-expanded={open} onClick={() => setOpen(!open)}>
            {counted(refused.length, "entry", "entries")} not taken: look
          </Plain>
        )}
      </Flex>
      {open && (
        <Box as="ul" aria-label="Entries that were not taken" listStyleType="none" maxW="40rem" mt="2">
          {refused.map((write) => (
            <NotKept key={write.id} write={write} name={nameOf(write.rig)} />
          ))}
        </Box>
      )}
    </Box>
  );
};
