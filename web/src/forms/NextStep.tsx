import { Box, Flex } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { get } from "../api/asked";
import { isSettled } from "../api/fetched";
import { useRig, useRole } from "../api/rig";
import { Plain } from "../parts/Plain";
import { useDid } from "./did";
import { oneTouch } from "./events";

/** What to do next, in one line, with the touch that logs it or the way to where it is done. ``here``: it is done on this very view. */
export const NextStep = ({ here }: { here?: boolean }) => {
  const rig = useRig();
  const next = useQuery({ ...get(rig, "/next"), placeholderData: keepPreviousData });
  const { writes } = useRole();
  const { touch, said, touched } = useDid(rig);
  const step = next.data;
  return (
    <Box my="2" data-part="next" aria-live="polite" aria-busy={!isSettled(next)}>
      <Flex gap="3" rowGap="1" align="center" wrap="wrap" minH="12">
        <Box
          fontSize={{ base: "lg", md: "xl" }}
          fontWeight="600"
          pl="3"
          borderLeftWidth="4px"
          borderColor={step?.due ? "warn" : "accent"}
        >
          {step?.words ?? (next.isError ? "What to do next is not known without the server." : "Looking what is next.")}
        </Box>
        {writes &&
          step?.acts.map((act) => {
            const event = oneTouch(act);
            return event ? (
              <Plain key={act.label} tone="strong" onClick={() => touch(act.label, event)}>
                {act.label}
              </Plain>
            ) : null;
          })}
        {!here && step?.opens && (
          <Plain asChild tone={step.due && step.acts.length === 0 ? "strong" : "plain"}>
            <Link to={step.opens.to}>{step.opens.label}</Link>
          </Plain>
        )}
      </Flex>
      {step?.why && <Box color="soft">{step.why}</Box>}
      {touched && said}
    </Box>
  );
};
