import { Box, Flex, Heading, HStack } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { planQuery } from "../api/queries";
import { useRole } from "../api/rig";
import { ViewHead } from "../forms/ViewHead";
import { Choose } from "../parts/Choose";
import { Fold } from "../parts/Fold";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { useIsPhone } from "../parts/phone";
import { Plain } from "../parts/Plain";
import { counted } from "../parts/words";

const RISKS = [
  ["0.05", "1 in 20"],
  ["0.1", "1 in 10"],
  ["0.2", "1 in 5"],
  ["0.3", "3 in 10"],
] as const;

type Outing = Schemas["OutingOut"];

const refOf = (stop: Schemas["StopOut"]) => ({ place: stop.place, arrive: stop.arrive.at, plug: stop.plug });

const StopLine = ({ stop }: { stop: Schemas["StopOut"] }) => (
  <Box as="li" pt="2" data-stop={stop.place}>
    <Box fontWeight="600">{stop.words}</Box>
    <Box as="ul" listStyleType="none" color="soft">
      {stop.acts.map((act) => (
        <Box as="li" key={act.store}>
          {act.words}
          {act.cost && `, ${act.cost}`}
        </Box>
      ))}
    </Box>
    <Box mt="1" maxW="70ch" data-part="why">
      {stop.why}
    </Box>
    {stop.closed && <Box color="warn">{stop.closed}</Box>}
  </Box>
);

/** An outing: when to leave, its places in their order, and its ticket. */
const OutingLine = ({ rig, outing, stops }: { rig: number; outing: Outing; stops: Schemas["StopOut"][] }) => {
  const navigate = useNavigate();
  const [write, unplan] = [useTell(rig, "post", "/tickets"), useTell(rig, "post", "/plan/stops/remove")];
  const { writes } = useRole();
  const first = stops[0];
  if (!first) return null;
  const open = () =>
    outing.ticket === null
      ? write.mutate(refOf(first), { onSuccess: ({ id }) => void navigate(`/stops/tickets/${id}`) })
      : void navigate(`/stops/tickets/${outing.ticket}`);
  return (
    <Box as="li" borderTopWidth="1px" borderColor="rule" py="3" data-outing={first.place}>
      <Flex gap="4" wrap="wrap" justify="space-between" align="flex-start">
        <Box flex="1 1 22rem" minW="0">
          <Box fontWeight="600" fontSize="lg">
            {outing.words}
          </Box>
          <Box as="ol" listStyleType="none" aria-label="Stops of this outing, in their order">
            {stops.map((stop) => (
              <StopLine key={stop.place} stop={stop} />
            ))}
          </Box>
        </Box>
        <HStack>
          {writes && outing.fixed && (
            <Plain size="sm" disabled={unplan.isPending} onClick={() => unplan.mutate(refOf(first))}>
              Let the plan decide
            </Plain>
          )}
          {(writes || outing.ticket !== null) && (
            <Plain disabled={write.isPending} onClick={open}>
              {outing.ticket === null ? "Write the ticket" : "Open the ticket"}
            </Plain>
          )}
        </HStack>
      </Flex>
      {outing.fixed && (
        <Box fontSize="sm" color="soft">
          Planned by hand.
        </Box>
      )}
      <Problem error={write.error ?? unplan.error} />
    </Box>
  );
};

const Others = ({ rig, plan }: { rig: number; plan: Schemas["PlanOut"] }) => {
  const agree = useTell(rig, "post", "/agreed");
  const { writes } = useRole();
  return (
    <>
      {plan.remedy && (
        <HStack mt="3" wrap="wrap" data-part="remedy">
          <Box>{plan.remedy.words}</Box>
          {writes && (
            <Plain
              size="sm"
              disabled={agree.isPending}
              onClick={() => plan.remedy && agree.mutate({ lever: plan.remedy.lever, until: plan.remedy.until })}
            >
              Agree
            </Plain>
          )}
          <Problem error={agree.error} />
        </HStack>
      )}
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
};

/** Which money the prices of the book are in: asked once, shown wherever money stands. */
const Money = ({ rig, currency }: { rig: number; currency: string | null }) => {
  const tell = useTell(rig, "put", "/plan/currency", (currency: string | null) => ({ body: { currency } }));
  const names = new Intl.DisplayNames(["en"], { type: "currency" });
  const codes = Intl.supportedValuesOf("currency");
  const options = [
    ["", "not said"],
    ...codes.map((code) => [code, `${code}, ${names.of(code) ?? code}`] as const),
  ] as const;
  return (
    <Box maxW="16rem">
      <Choose
        label="Prices are in"
        value={currency ?? ""}
        options={options}
        onValue={(code) => tell.mutate(code === "" ? null : code)}
      />
      <Problem error={tell.error} />
    </Box>
  );
};

const Found = ({ rig, plan }: { rig: number; plan: Schemas["PlanOut"] }) => {
  const risk = useTell(rig, "put", "/plan/risk", (risk: number) => ({ body: { risk } }));
  const { writes } = useRole();
  const phone = useIsPhone();
  // on a phone the next one stands alone
  const [soon, later] = phone ? [plan.outings.slice(0, 1), plan.outings.slice(1)] : [plan.outings, []];
  const line = (outing: Outing) => {
    const stops = outing.stops.flatMap((at) => plan.stops[at] ?? []);
    return <OutingLine key={`${outing.words} ${stops[0]?.place}`} rig={rig} outing={outing} stops={stops} />;
  };
  return (
    <Box>
      <Box mb="4" aria-busy={plan.stands}>
        <ViewHead title={plan.headline} part="plan-headline">
          {plan.detail}
        </ViewHead>
      </Box>
      {plan.stops.length > 0 && (
        <Box as="ol" listStyleType="none" aria-label="The coming stops">
          {soon.map(line)}
          {later.length > 0 && (
            <li>
              <Fold title={`${counted(later.length, "outing", "outings")} after that`}>
                <Box as="ol" listStyleType="none" aria-label="The stops after that">
                  {later.map(line)}
                </Box>
              </Fold>
            </li>
          )}
        </Box>
      )}
      <Others rig={rig} plan={plan} />
      {writes && (
        <Fold title="Risk and prices">
          <Flex gap="4" wrap="wrap" align="flex-end">
            <Box maxW="16rem">
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
            </Box>
            <Money rig={rig} currency={plan.currency} />
            <Problem error={risk.error} />
          </Flex>
        </Fold>
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
