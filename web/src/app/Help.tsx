import { Box, Dialog } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";

import { get } from "../api/asked";
import { useRig } from "../api/rig";
import { LaneDrawing } from "../horizon/LaneDrawing";
import { makeStrip } from "../horizon/strip";
import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { useWidth } from "../parts/width";
import { type Answer, HELP } from "./helpTexts";

const KINDS = { first: "", bank: "amber", water: "sea", gas: "rust" } as const;

/** A lane of this very rig, with what its line is. */
const Picture = ({ of }: { of: NonNullable<Answer["picture"]> }) => {
  const horizon = useQuery({ ...get(useRig(), "/horizon"), enabled: false }).data;
  const [box, width] = useWidth();
  const lanes = horizon?.lanes.filter((lane) => lane.known) ?? [];
  const lane =
    of === "first"
      ? (lanes.find((each) => each.id === horizon?.first) ?? lanes[0])
      : lanes.find((each) => each.hue === KINDS[of]);
  if (!horizon || !lane) return null;
  const line = lane.facts.find((fact) => fact.name === "Lode line")?.value;
  return (
    <Box ref={box} my="2">
      {width > 0 && <LaneDrawing lane={lane} strip={makeStrip(horizon, width)} />}
      <Box color="soft" fontSize="sm">
        Your {lane.name}, the last days and the next ones{line && `; its line is at ${line}`}.
      </Box>
    </Box>
  );
};

/** The questions that a view raises, each with a short answer. It needs no signal. */
export const Help = ({ path, close }: { path: string; close: () => void }) => (
  <Over open close={close} title="What does this mean?" foot={<Plain onClick={close}>Close</Plain>}>
    <Dialog.Body>
      <Box as="dl">
        {(HELP[path] ?? HELP["/"] ?? []).map(({ asks, says, picture }) => (
          <Box key={asks} mb="4">
            <Box as="dt" fontWeight="700">
              {asks.replaceAll("*", "")}
            </Box>
            <Box as="dd">
              {says}
              {picture && <Picture of={picture} />}
            </Box>
          </Box>
        ))}
      </Box>
    </Dialog.Body>
  </Over>
);
