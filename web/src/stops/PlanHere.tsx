import { Box, Flex, Input } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";

import { useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

/** A stop here on a day of one's own choice: the plan is made round it. */
export const PlanHere = ({ rig, spot, today }: { rig: number; spot: Schemas["SpotOut"]; today: string }) => {
  const plan = useTell(rig, "post", "/plan/stops/on");
  const [on, setOn] = useState("");
  const [time, setTime] = useState("12:00");
  const [plug, setPlug] = useState(false);
  const keep = (event: FormEvent) => {
    event.preventDefault();
    plan.mutate({ place: spot.id, on, time, plug }, { onSuccess: () => setOn("") });
  };
  return (
    <Box asChild pb="2">
      <form onSubmit={keep} aria-label={`Plan a stop at ${spot.name}`}>
        <Flex gap="3" wrap="wrap" align="flex-end">
          <Labelled label="Stop here on">
            <Input
              type="date"
              size="sm"
              bg="raised"
              borderColor="edge"
              required
              min={today}
              value={on}
              onChange={(event) => setOn(event.target.value)}
            />
          </Labelled>
          <Labelled label="There at">
            <Input
              type="time"
              size="sm"
              bg="raised"
              borderColor="edge"
              required
              value={time}
              onChange={(event) => setTime(event.target.value)}
            />
          </Labelled>
          {spot.offers.some((offer) => offer.id === "hookup") && (
            <Plain size="sm" aria-pressed={plug} onClick={() => setPlug(!plug)}>
              A night plugged in
            </Plain>
          )}
          <Plain type="submit" size="sm" disabled={plan.isPending}>
            Plan it
          </Plain>
        </Flex>
        {plan.isSuccess && on === "" && (
          <Box role="status" fontSize="sm">
            It stands in the plan.
          </Box>
        )}
        <Problem error={plan.error} />
      </form>
    </Box>
  );
};
