import { Box, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { get } from "../api/asked";
import type { Schemas } from "../api/client";
import { useChangeRig } from "../api/mutations";
import { useRig, useRole } from "../api/rig";
import { useCorrect } from "../outbox/writes";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

type Water = Schemas["WaterOut"];

/** From now on what a gauge shows of an empty tank is taken off. */
const ReadWithFloor = ({ fouled: { store, floor, read_with_floor } }: { fouled: Schemas["FouledOut"] }) => {
  const rig = useRig();
  const { data } = useQuery(get(rig, ""));
  const change = useChangeRig(rig);
  const read = (doc: Schemas["RigDoc"]) => ({
    ...doc,
    stores: doc.stores.map((each) => (each.id === store ? { ...each, reads_from: floor } : each)),
  });
  return (
    <>
      <Plain
        size="sm"
        disabled={!data || change.isPending}
        onClick={() => data && change.mutate(() => ({ doc: read(data.doc), saw: data.revision }))}
      >
        {read_with_floor}
      </Plain>
      <Problem error={change.error} />
    </>
  );
};

const Fouled = ({ fouled, saw }: { fouled: Schemas["FouledOut"]; saw: number }) => {
  const rig = useRig();
  const correct = useCorrect(rig, saw);
  const { owns, writes } = useRole();
  const { event, store, floor } = fouled;
  const left = { event: { type: "dump", store, left: floor, full: false } };
  return (
    <Box role="note" color="warn" mt="2">
      {fouled.words}
      <HStack mt="1" wrap="wrap">
        {owns && <ReadWithFloor fouled={fouled} />}
        {writes && event !== null && (
          <Plain
            size="sm"
            disabled={correct.isPending}
            onClick={() =>
              correct.mutate({ entry: { id: event, kind: "event", words: fouled.was_left, sent: null }, to: left })
            }
          >
            {fouled.was_left}
          </Plain>
        )}
        <Plain asChild size="sm">
          <Link to={`/log?day=${fouled.dumped.date}`}>Open the day</Link>
        </Plain>
      </HStack>
      <Problem error={correct.error} />
    </Box>
  );
};

/** Toilets of every kind, as people count them; gauges that are not clean; what else runs out or fills up. */
export const Waste = ({ water }: { water: Water }) => (
  <Box>
    {water.toilets.map((toilet) => (
      <Box key={toilet.store} mb="1" data-toilet={toilet.store}>
        {toilet.words}
        {toilet.guest && <Box color="soft">{toilet.guest}</Box>}
      </Box>
    ))}
    {water.toilets.length === 0 && <Box color="soft">No toilet is known yet: read it in the Round.</Box>}
    {water.fouled.map((fouled) => (
      <Fouled key={fouled.store} fouled={fouled} saw={water.revision} />
    ))}
    {water.supplies.length > 0 && (
      <Box as="ul" listStyleType="none" mt="3" aria-label="Supplies">
        {water.supplies.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </Box>
    )}
    <Box color="soft" fontSize="sm" mt="2">
      {water.emptied_where} Rubbish, recycling, laundry and food are added as supplies on the{" "}
      <Link to="/rig">
        <Box as="span" textDecoration="underline">
          Rig view
        </Box>
      </Link>
      .
    </Box>
  </Box>
);
