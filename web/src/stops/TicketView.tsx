import { Box, chakra, Flex, Heading, HStack, Input, Textarea } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, type ReactNode, useState } from "react";
import { Link, useParams } from "react-router";

import { get, useTell } from "../api/asked";
import { type Schemas, sentenceOf } from "../api/client";
import { keys } from "../api/keys";
import { useRig, useRole } from "../api/rig";
import { useTyped } from "../forms/system";
import { isUnread } from "../forms/typed";
import { useNotePlace, useSetDay } from "../outbox/writes";
import { Labelled } from "../parts/Labelled";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { useOnce } from "../parts/once";
import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";
import { localOf, momentWords, timeOfDay } from "../parts/words";
import { useTicks } from "./ticks";

type Task = Schemas["TaskOut"];
type Understands = ReturnType<typeof useTyped>;

/** The amount that a tick logs, as planned until it is changed. Empty: to the brim. */
const Amount = ({ task, text, setText }: { task: Task; text: string; setText: (text: string) => void }) => (
  <HStack mt="1" className="no-print">
    <Input
      aria-label={`${task.words}: another amount, ${task.unit ?? ""}`}
      inputMode="decimal"
      width="7rem"
      bg="raised"
      borderColor="edge"
      placeholder={String(task.amount)}
      value={text}
      onChange={(event) => setText(event.target.value)}
    />
    <Box color="soft" fontSize="sm">
      {task.unit}; empty: to the brim
    </Box>
  </HStack>
);

/** The share that was left in a tank, in per cent; empty: emptied whole. */
const Left = ({ task, text, setText }: { task: Task; text: string; setText: (text: string) => void }) => (
  <HStack mt="1" className="no-print">
    <Input
      aria-label={`${task.words}: left in it, %`}
      inputMode="decimal"
      width="7rem"
      bg="raised"
      borderColor="edge"
      placeholder="0"
      value={text}
      onChange={(event) => setText(event.target.value)}
    />
    <Box color="soft" fontSize="sm">
      % left in it; empty: none
    </Box>
  </HStack>
);

/** What a tick logs, with what was typed beside it; a sentence where that is no number. */
const eventWith = (task: Task, text: string, understood: Understands): Schemas["EventIn"] | null | string => {
  const event = task.event ?? null;
  if (event === null || text.trim() === "") return event;
  const value = understood(text, event.type === "dump" ? "%" : task.unit);
  if (isUnread(value)) return value.problem;
  if (value === null || value < 0) return "Write a number here, or leave it empty.";
  if (event.type === "dump") return value > 100 ? "Between 0 and 100." : { ...event, left: value / 100 };
  return { ...event, amount: value, full: false };
};

const Row = ({ task, ticks, writes }: { task: Task; ticks: ReturnType<typeof useTicks>; writes: boolean }) => {
  const once = useOnce();
  const understood = useTyped();
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { set, waits } = ticks.of(task);
  const touch = () => {
    const event = eventWith(task, text, understood);
    if (typeof event === "string") return setProblem(event);
    setProblem(null);
    void once(task.id, () =>
      (set ? ticks.undo(task) : ticks.tick(task, event)).catch((error: unknown) => setProblem(sentenceOf(error))),
    );
  };
  const asks = writes && (task.event?.type === "fill" || task.event?.type === "dump");
  return (
    <Flex as="li" gap="3" borderTopWidth="1px" borderColor="rule" py="2" align="flex-start" data-task={task.id}>
      <Plain
        aria-pressed={set}
        aria-label={`${task.words}: ${set ? "undo" : task.button}`}
        minH="14"
        minW="20"
        fontWeight="600"
        className="tick"
        disabled={!writes}
        onClick={touch}
      >
        {set ? "Undo" : "Done"}
      </Plain>
      <Box flex="1" minW="0" pt="1">
        <Box fontSize="lg" lineHeight="1.3" color={set ? "soft" : "ink"} textDecoration={set ? "line-through" : "none"}>
          {task.words}
        </Box>
        <Box color="soft" fontSize="sm">
          {task.done_words ?? task.beside}
          {waits && " Kept on this device, waits for a signal."}
        </Box>
        {asks && !set && !open && (
          <Plain size="sm" mt="1" className="no-print" onClick={() => setOpen(true)}>
            {task.event?.type === "dump" ? "Not emptied whole" : "Another amount"}
          </Plain>
        )}
        {asks && !set && open && task.event?.type === "fill" && <Amount task={task} text={text} setText={setText} />}
        {asks && !set && open && task.event?.type === "dump" && <Left task={task} text={text} setText={setText} />}
        <Problem error={problem} />
      </Box>
    </Flex>
  );
};

/** After the stop: it is over, and what was different there goes to the place. */
const Afterwards = ({ rig, ticket }: { rig: number; ticket: Schemas["TicketOut"] }) => {
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const [said, setSaid] = useState<string | null>(null);
  const now = localOf(Date.now());
  const on = ticket.now.date;
  const [note, visit] = [useNotePlace(rig), useSetDay(rig, on, ticket.revision)];
  const over = async () => {
    if (text.trim())
      await note.mutateAsync({ note: { place: ticket.place, on, text: text.trim() }, words: `Note on ${ticket.name}` });
    const done = await visit.mutateAsync({
      visit: { place: ticket.place, arrived: ticket.opened.at, left: new Date().toISOString() },
    });
    setSaid(
      done.waits
        ? "Kept on this device, waits for a signal."
        : "The stop is over; the forecast starts from what was done.",
    );
    void queries.invalidateQueries({ queryKey: keys.ofRig(rig) });
  };
  if (ticket.over && said === null) return <Box color="soft">This stop is over. What was ticked is in the log.</Box>;
  return (
    <Box mt="6" className="no-print">
      <Labelled
        label="Anything different here than we thought?"
        note="It is kept with the place and shown the next time."
      >
        <Textarea bg="raised" borderColor="edge" value={text} onChange={(event) => setText(event.target.value)} />
      </Labelled>
      <HStack mt="2">
        <Plain
          tone="strong"
          minH="12"
          disabled={visit.isPending || note.isPending || said !== null}
          onClick={() => void over().catch(() => undefined)}
        >
          The stop is over
        </Plain>
        <Box color="soft" fontSize="sm">
          {timeOfDay(now.time)}
        </Box>
      </HStack>
      <Box role="status">{said}</Box>
      <Problem error={visit.error ?? note.error} />
    </Box>
  );
};

const Paper = ({ children }: { children: ReactNode }) => (
  <chakra.article
    maxW="40rem"
    mx="auto"
    css={{
      "@media print": {
        maxWidth: "none",
        color: "black",
        "& li": { paddingBlock: "0.6mm !important", breakInside: "avoid" },
        "& .tick": {
          minHeight: "0 !important",
          minWidth: "0 !important",
          width: "4mm",
          height: "4mm",
          padding: 0,
          fontSize: 0,
          border: "0.3mm solid black",
        },
      },
    }}
  >
    {children}
  </chakra.article>
);

/** The ticket of a stop: on the phone, outdoors, ticked off in order; on paper one A5 page. */
export const TicketView = () => {
  const rig = useRig();
  const id = Number(useParams().ticket);
  const answer = useQuery(get(rig, "/tickets/{ticket_id}", { path: { ticket_id: id } }));
  useTitle("Ticket");
  if (answer.isPending) return <Waiting what="the ticket" why={answer.failureReason} />;
  if (answer.isError && !answer.data) return <Refused error={answer.error} again={() => void answer.refetch()} />;
  return <Shown key={id} rig={rig} ticket={answer.data} />;
};

/** The place of the last task before one that has a place. */
const before = (tasks: Task[], at: number): string | null =>
  tasks.slice(0, at).findLast((task) => task.at !== null)?.at ?? null;

/** That the plan is another one by now: a ticket that was not begun is written anew by one touch. */
const Changed = ({ rig, ticket }: { rig: number; ticket: Schemas["TicketOut"] }) => {
  const rewrite = useTell(rig, "post", "/plan/ticket");
  const { writes } = useRole();
  return (
    <HStack my="2" wrap="wrap" className="no-print" role="status">
      <Box fontWeight="600">{ticket.changed}</Box>
      {writes && ticket.can_rewrite && (
        <Plain size="sm" disabled={rewrite.isPending} onClick={() => rewrite.mutate({ id: ticket.id })}>
          Write it anew
        </Plain>
      )}
      <Problem error={rewrite.error} />
    </HStack>
  );
};

const Shown = ({ rig, ticket }: { rig: number; ticket: Schemas["TicketOut"] }) => {
  const ticks = useTicks(rig, ticket);
  const { writes } = useRole();
  const several = new Set(ticket.tasks.flatMap((task) => task.at ?? [])).size > 1;
  const left = ticket.tasks.filter((task) => !task.optional && !ticks.of(task).set).length;
  return (
    <Paper>
      <Flex justify="space-between" align="flex-start" gap="3" wrap="wrap">
        <Box>
          <Heading as="h1" fontFamily="heading" fontSize="2xl">
            {ticket.headline}
          </Heading>
          <Box color="soft">
            {momentWords(ticket.arrive)}. {ticket.sums}
          </Box>
        </Box>
        <HStack className="no-print">
          <Plain asChild>
            <Link to="/stops">All stops</Link>
          </Plain>
          <Plain onClick={() => window.print()}>Print</Plain>
        </HStack>
      </Flex>
      {ticket.changed && <Changed rig={rig} ticket={ticket} />}
      <Box fontSize="sm" my="2">
        {ticket.cautions.join(" ")}
      </Box>
      <Box role="status" fontSize="sm" color="soft" className="no-print">
        {left === 0 ? "All done." : `${left} to do.`}
      </Box>
      <Box as="ol" listStyleType="none" aria-label="What to do, in order">
        {ticket.tasks.map((task, at) => (
          <Fragment key={task.id}>
            {several && task.at !== null && task.at !== before(ticket.tasks, at) && (
              <Heading as="h2" size="md" fontFamily="heading" mt="3" mb="1">
                {task.at}
              </Heading>
            )}
            <Row task={task} ticks={ticks} writes={writes} />
          </Fragment>
        ))}
      </Box>
      <Box mt="3" fontSize="sm">
        {ticket.weight}
      </Box>
      {writes && <Afterwards rig={rig} ticket={ticket} />}
    </Paper>
  );
};
