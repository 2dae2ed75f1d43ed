import { Box, Flex, Grid, Heading } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useState } from "react";
import { Link as RouterLink, useNavigate } from "react-router";

import { get, useAsk, useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { isSettled } from "../api/fetched";
import { planQuery } from "../api/queries";
import { useRig, useRole } from "../api/rig";
import { type Did, useDid } from "../forms/did";
import { oneTouch } from "../forms/events";
import { ViewHead } from "../forms/ViewHead";
import { useCorrect, useRemove } from "../outbox/writes";
import { AsOf } from "../parts/AsOf";
import { useFirstStands } from "../parts/first";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";
import { Legend } from "./Legend";
import { type Asked, StayUntil } from "./StayUntil";
import { StripView } from "./StripView";
import { WhatBuysTime } from "./WhatBuysTime";

const DayEditor = lazy(async () => ({ default: (await import("./DayEditor")).DayEditor }));

/** One touch settles a doubt: says that a reading is right, takes out what was logged twice, logs what was forgotten. */
const Settle = ({
  doubt,
  settle,
  saw,
  touch,
}: {
  doubt: Schemas["DoubtOut"];
  settle: Schemas["SettleOut"];
  saw: number;
  touch: Did["touch"];
}) => {
  const rig = useRig();
  const [correct, remove] = [useCorrect(rig, saw), useRemove(rig, saw)];
  const { label, how, type, full, on, time } = settle;
  const entry = { id: settle.entry ?? "", kind: settle.kind ?? "reading", words: doubt.words, sent: null };
  const settled = () => {
    if (how === "confirm") correct.mutate({ entry, to: { confirmed: true } });
    else if (how === "remove") remove.mutate(entry);
    else if (type) touch(label, { type, store: doubt.store, full }, { on, time });
  };
  return (
    <>
      <Plain size="sm" mr="2" disabled={correct.isPending || remove.isPending} onClick={settled}>
        {label}
      </Plain>
      <Problem error={correct.error ?? remove.error} />
    </>
  );
};

const Doubts = ({ doubts, saw }: { doubts: Schemas["DoubtOut"][]; saw: number }) => {
  const { touch, said, touched } = useDid(useRig());
  if (doubts.length === 0 && !touched) return null;
  return (
    <Box as="section" aria-label="Entries to check">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        Entries to check
      </Heading>
      {doubts.map((doubt) => (
        <Box key={doubt.words} mb="2" pl="3" borderLeftWidth="3px" borderColor="warn">
          {doubt.words} {doubt.settle && <Settle doubt={doubt} settle={doubt.settle} saw={saw} touch={touch} />}
          <RouterLink to={`/log?day=${doubt.date}`}>
            <Box as="span" textDecoration="underline">
              Open that day
            </Box>
          </RouterLink>
        </Box>
      ))}
      {touched && said}
    </Box>
  );
};

/** What is done on the spot, without driving off; what is due is logged by one touch. */
const Chores = ({ chores: all }: { chores: Schemas["ChoreOut"][] }) => {
  const rig = useRig();
  const { touch, said, touched } = useDid(rig);
  const { writes } = useRole();
  // what stands above as the next thing to do is not said again
  const next = useQuery({ ...get(rig, "/next"), enabled: false }).data?.words;
  const chores = all.filter(({ words }) => words !== next);
  if (chores.length === 0 && !touched) return null;
  return (
    <Box mt="2" fontSize={{ base: "md", md: "lg" }}>
      <Box as="ul" aria-label="Without driving off" listStyleType="none">
        {chores.map(({ words, act }) => {
          const event = act ? oneTouch(act) : null;
          return (
            <Flex as="li" key={words} gap="3" align="center" wrap="wrap">
              {words}
              {writes && act && event && (
                <Plain minH="11" onClick={() => touch(act.label, event)}>
                  {act.label}
                </Plain>
              )}
            </Flex>
          );
        })}
      </Box>
      {touched && said}
    </Box>
  );
};

const Stop = ({ needs, cautions }: { needs: Schemas["NeedOut"][]; cautions: string[] }) =>
  needs.length === 0 ? null : (
    <Box as="section" aria-label="At your next stop">
      <Heading as="h2" size="md" fontFamily="heading" mb="2">
        At your next stop
      </Heading>
      <Box as="ul" listStyleType="none">
        {needs.map((need) => (
          <Box as="li" key={need.store} mb="1">
            <Box as="span" fontWeight={need.due ? 700 : 500}>
              {need.name}
            </Box>
            : {need.words}
          </Box>
        ))}
      </Box>
      <Box color="soft" fontSize="sm" mt="2">
        {cautions.join(" ")}
      </Box>
    </Box>
  );

/** Until somebody says which day, the one after the first line is asked about. */
const usualEnd = (strip: Schemas["HorizonOut"], dates: string[]): string => {
  const first = dates.indexOf(strip.first_at?.slice(0, 10) ?? "");
  return dates[first < 0 ? 2 : Math.min(first + 1, dates.length - 1)] ?? "";
};

/** What the plan says, in a line under the strip. */
const PlanLine = ({
  plan,
  tried,
  problem,
}: {
  plan?: Schemas["PlanOut"];
  tried: string | null;
  problem: Error | null;
}) => (
  <Box mt="2" aria-live="polite" aria-busy={plan?.stands ?? false} data-part="plan-line" data-revision={plan?.revision}>
    {plan?.has_places && (
      <>
        <Box as="span" fontWeight="600">
          {plan.headline}
        </Box>
        {plan.stops.length > 0 && `. ${plan.chance} `}
        <RouterLink to="/stops">
          <Box as="span" textDecoration="underline">
            The plan
          </Box>
        </RouterLink>
      </>
    )}
    {tried !== null && (
      <Box fontWeight="600" data-part="tried">
        As you drag it: {tried}
      </Box>
    )}
    <Problem error={problem} />
  </Box>
);

/** Says that this forecast was seen, once it is on screen. */
const useSaidSeen = (rig: number, revision: number | undefined, at: string | undefined) => {
  const { mutate } = useAsk(rig, "post", "/horizon/seen", (revision: number) => ({ body: { revision } }));
  useEffect(() => {
    if (revision !== undefined) mutate(revision);
  }, [mutate, revision, at]);
};

/** All that lies under the first words. */
const Below = ({ strip, asks }: { strip: Schemas["HorizonOut"]; asks: boolean }) => {
  const rig = useRig();
  const navigate = useNavigate();
  const [openDate, setOpenDate] = useState<string | null>(null);
  const [wanted, setAsked] = useState<Asked>({ until: "", sure: 0.9 });
  const plan = useQuery(planQuery(rig)).data;
  const moving = useTell(rig, "post", "/plan/stops");
  const trying = useAsk(rig, "post", "/plan/try");
  const dates = strip.days.filter((each) => each.coming).map((each) => each.date);
  // a day that has gone by meanwhile is not asked about
  const asked = wanted.until > (dates[0] ?? "") ? wanted : { ...wanted, until: usualEnd(strip, dates) };
  const move = (stop: Schemas["StopOut"], arrive: string) =>
    moving.mutate({
      stop: { place: stop.place, arrive, plug: stop.plug },
      instead_of: stop.fixed ? { place: stop.place, arrive: stop.arrive.at, plug: stop.plug } : null,
    });
  const attempt = (stop: Schemas["StopOut"], arrive: string | null) => {
    const ref = { place: stop.place, plug: stop.plug };
    if (arrive === null) trying.reset();
    else trying.mutate({ stop: { ...ref, arrive }, instead_of: { ...ref, arrive: stop.arrive.at } });
  };
  const day = strip.days.find((each) => each.date === openDate);
  return (
    <>
      <StripView
        horizon={strip}
        openDay={(each) => (each.coming ? setOpenDate(each.date) : void navigate(`/log?day=${each.date}`))}
        plan={plan}
        until={asked.until}
        ask={(until) => setAsked({ ...asked, until })}
        move={move}
        attempt={attempt}
        tried={trying.data?.lanes}
      />
      <PlanLine plan={plan} tried={trying.data?.words ?? null} problem={moving.error} />
      <Legend />
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} gap="8" mt="6">
        <StayUntil
          rig={rig}
          asked={asked}
          ask={setAsked}
          least={dates.at(1) ?? ""}
          most={dates.at(-1) ?? ""}
          asks={asks}
        />
        <WhatBuysTime rig={rig} until={asked.until} asks={asks} />
      </Grid>
      <Grid templateColumns={{ base: "1fr", lg: "1fr 1fr" }} gap="6" mt="6">
        <Doubts doubts={strip.doubts} saw={strip.revision} />
        <Stop needs={strip.stop} cautions={strip.cautions} />
      </Grid>
      <Box color="soft" fontSize="sm" mt="6">
        Each lane has a lode line: the level at which its store sends you away. Lodeline estimates; the person decides.
      </Box>
      {day && (
        <Suspense fallback={null}>
          <DayEditor
            key={day.date}
            day={day}
            tempUnit={strip.temp_unit}
            saw={strip.revision}
            where={strip.where}
            close={() => setOpenDate(null)}
          />
        </Suspense>
      )}
    </>
  );
};

export const HorizonView = () => {
  useTitle("Horizon");
  const rig = useRig();
  const horizon = useQuery(get(rig, "/horizon"));
  const stands = useFirstStands();
  useSaidSeen(rig, horizon.data?.revision, horizon.data?.now.at);
  if (horizon.isPending) return <Waiting what="the Horizon" why={horizon.failureReason} />;
  if (horizon.isError && !horizon.data) return <Refused error={horizon.error} again={() => void horizon.refetch()} />;
  const strip = horizon.data;
  return (
    <Box>
      <ViewHead title={strip.headline} part="headline">
        {strip.detail}
        <Chores chores={strip.chores} />
      </ViewHead>
      <AsOf at={strip.now} fetched={horizon.dataUpdatedAt} forecast />
      {stands && <Below strip={strip} asks={isSettled(horizon)} />}
    </Box>
  );
};
