import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";

import type { Schemas } from "../api/client";
import { leversQuery } from "../api/queries";
import { useRig } from "../app/rig";
import { Refused, Waiting } from "../parts/Notice";
import { Sheet } from "../parts/Sheet";
import { percent } from "./scales";

type Lever = Schemas["LeverOut"];

const days = (value: number | null): string => (value === null ? "over 14" : value.toFixed(1));

const fromTo = (before: string, after: string): string => (before === after ? before : `${before} → ${after}`);

const row = (lever: Lever) => [
  <Box key="name" color={lever.buys ? "ink" : "soft"}>
    {lever.name}
  </Box>,
  fromTo(percent(lever.low_before), percent(lever.low_after)),
  fromTo(days(lever.days_before), days(lever.days_after)),
  fromTo(percent(lever.hold_before), percent(lever.hold_after)),
  fromTo(lever.no_sun_before.toFixed(1), lever.no_sun_after.toFixed(1)),
  lever.buys ? "" : "buys nothing now",
];

/** What each change of rig or habit would do, from the same paths. */
export const Levers = ({ bank }: { bank: string | null }) => {
  const levers = useQuery(leversQuery(useRig(), bank));
  if (levers.isPending) return <Waiting what="what would help" />;
  if (levers.isError) return <Refused error={levers.error} again={() => void levers.refetch()} />;
  return (
    <Sheet
      heads={["Change", "Next low", "Days left", "Holds 14 days", "Days without sun", ""]}
      rows={levers.data.map(row)}
    />
  );
};
