import { Box } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { useNow } from "./now";
import { momentWords } from "./words";

const OLD_MS = 10 * 60_000;
const HOUR_MS = 3_600_000;

const span = (ms: number): string => {
  const hours = Math.round(ms / HOUR_MS);
  if (hours < 1) return `${Math.round(ms / 60_000)} minutes`;
  if (hours < 48) return hours === 1 ? "an hour" : `${hours} hours`;
  return `${Math.round(hours / 24)} days`;
};

/** How old what is shown is, where it could not be fetched again. ``fetched``: when it was, by this device. [ms] */
export const AsOf = ({ at, fetched, forecast }: { at: Schemas["Moment"]; fetched: number; forecast?: boolean }) => {
  const age = useNow().getTime() - fetched;
  if (age < OLD_MS) return null;
  return (
    <Box role="status" mb="3" pl="3" borderLeftWidth="3px" borderColor="edge" color="soft" data-part="as-of">
      As of {momentWords(at)}
      {forecast ? `; the forecast has moved on by ${span(age)}.` : `, ${span(age)} ago.`}
    </Box>
  );
};
