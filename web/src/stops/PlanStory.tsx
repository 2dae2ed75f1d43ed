import { Box, Flex, Heading, HStack } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { planQuery } from "../api/queries";
import { useRole } from "../api/rig";
import { Choose } from "../parts/Choose";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";

const RISKS = [
  ["0.05", "1 in 20"],
  ["0.1", "1 in 10"],
  ["0.2", "1 in 5"],
  ["0.3", "3 in 10"],
] as const;

const refOf = (stop: Schemas["StopOut"]) => ({ place: stop.place, arrive: stop.arrive.at, plug: stop.plug });

const StopLine = ({ rig, stop }: { rig: number; stop: Schemas["StopOut"] }) => {
  const navigate = useNavigate();
  const [write, unplan] = [useTell(rig, "post", "/tickets"), useTell(rig, "post", "/plan/stops/remove")];
  const { writes } = useRole();
  const open = () =>
    stop.ticket === null
      ? write.mutate(refOf(stop), { onSuccess: ({ id }) => void navigate(`/stops/tickets/${id}`) })
      : void navigate(`/stops/tickets/${stop.ticket}`);
  return (
    <Box as="li" borderTopWidth="1px" borderColor="rule" py="3" data-stop={stop.place}>
      <Flex gap="4" wrap="wrap" justify="space-between" align="flex-start">
        <Box flex="1 1 22rem" minW="0">
          <Box fontWeight="600">{stop.words}</Box>
          <Box as="ul" listStyleType="none" color="soft" mt="1">
            {stop.acts.map((act) => (
              <Box as="li" key={act.store}>
                {act.words}
                {act.cost && `, ${act.cost}`}
              </Box>
            ))}
          </Box>
        </Box>
        <HStack>
          {writes && stop.fixed && (
            <Plain size="sm" disabled={unplan.isPending} onClick={() => unplan.mutate(refOf(stop))}>
              Let the plan decide
            </Plain>
          )}
          {(writes || stop.ticket !== null) && (
            <Plain disabled={write.isPending} onClick={open}>
              {stop.ticket === null ? "Write the ticket" : "Open the ticket"}
            </Plain>
          )}
        </HStack>
      </Flex>
      {stop.fixed && (
        <Box fontSize="sm" color="soft">
          Planned by hand.
        </Box>
      )}
      {stop.closed && <Box color="warn">{stop.closed}</Box>}
      <Problem error={write.error ?? unplan.error} />
    </Box>
  );
};

const Others = ({ plan }: { plan: Schemas["PlanOut"] }) => (
  <>
    {plan.fallback && (
      <Box mt="3" data-part="fallback">
        {plan.fallback}
      </Box>
    )}
    {plan.chores.length > 0 && (
      <Box mt="3">
        <Box color="soft" fontSize="sm">
          Between stops, without driving off
        </Box>
        {plan.chores.map((chore) => (
          <Box key={chore}>{chore}</Box>
        ))}
      </Box>
    )}
    {plan.others.map((other) => (
      <Box asChild key={other.words} mt="3">
        <details>
          <Box as="summary" cursor="pointer" py="1">
            Another way: {other.words}
          </Box>
          <Box as="ol" pl="6" listStyleType="decimal" color="soft">
            {other.stops.map((stop) => (
              <li key={stop}>{stop}</li>
            ))}
          </Box>
        </details>
      </Box>
    ))}
  </>
);

const Found = ({ rig, plan }: { rig: number; plan: Schemas["PlanOut"] }) => {
  const risk = useTell(rig, "put", "/plan/risk", (risk: number) => ({ body: { risk } }));
  const { writes } = useRole();
  return (
    <Box>
      <Box mb="4" aria-live="polite" aria-busy={plan.stands}>
        <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }} data-part="plan-headline">
          {plan.headline}
        </Heading>
        <Box fontSize={{ base: "md", md: "lg" }} color="soft" maxW="70ch">
          {plan.detail}
        </Box>
      </Box>
      {plan.stops.length > 0 && (
        <Box as="ol" listStyleType="none" aria-label="The coming stops">
          {plan.stops.map((stop) => (
            <StopLine key={`${stop.place} ${stop.arrive.at}`} rig={rig} stop={stop} />
          ))}
        </Box>
      )}
      <Others plan={plan} />
      {writes && (
        <Box mt="4" maxW="16rem">
          <Choose
            label="Chance to pass a line that you accept"
            value={String(plan.risk)}
            options={
              RISKS.some(([value]) => value === String(plan.risk))
                ? RISKS
                : [...RISKS, [String(plan.risk), plan.risk.toString()]]
            }
            onValue={(value) => risk.mutate(Number(value))}
          />
          <Problem error={risk.error} />
        </Box>
      )}
    </Box>
  );
};

/** The plan as a short story. While it is being worked out that is said, and it can be stopped. */
export const PlanStory = ({ rig, hasPlaces }: { rig: number; hasPlaces: boolean }) => {
  const queries = useQueryClient();
  const [stopped, setStopped] = useState(false);
  const plan = useQuery({ ...planQuery(rig), enabled: hasPlaces && !stopped });
  const stop = () => {
    setStopped(true);
    void queries.cancelQueries({ queryKey: planQuery(rig).queryKey });
  };
  if (!hasPlaces)
    return (
      <Box mb="8">
        <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
          No places yet
        </Heading>
        <Box color="soft" maxW="70ch">
          Add the taps, drains, sites and shops that you use, by hand or from a file. From then on the plan says which
          stop is next, when to leave and what to do there.
        </Box>
      </Box>
    );
  if (plan.data)
    return (
      <Box as="section" aria-label="The plan" mb="8">
        <Found rig={rig} plan={plan.data} />
      </Box>
    );
  if (plan.isError) return <Refused error={plan.error} again={() => void plan.refetch()} />;
  return (
    <Box mb="8" role="status">
      {stopped ? (
        <HStack>
          <Box color="soft">The plan was stopped.</Box>
          <Plain onClick={() => setStopped(false)}>Work it out</Plain>
        </HStack>
      ) : (
        <>
          <Waiting what="the plan" why={plan.failureReason} />
          <Plain onClick={stop}>Stop</Plain>
        </>
      )}
    </Box>
  );
};
