import { Box, chakra, HStack } from "@chakra-ui/react";
import type { ReactNode } from "react";

import { labelOf } from "../api/catalogue";
import { useConfirm } from "../api/mutations";
import { useRig } from "../api/rig";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import type { Part } from "./parts";
import { Checks, useAboard } from "./Section";

const Head = chakra("button", {
  base: {
    display: "block",
    width: "100%",
    textAlign: "left",
    cursor: "pointer",
    py: "1.5",
    px: "1",
    lineHeight: "1.3",
    _hover: { bg: "sunken" },
  },
});

const ASSUMED = "assumed";

/** What set-up filled in of a part by common practice, and one touch that takes it as right. */
const Assumed = ({ paths, owns }: { paths: string[]; owns: boolean }) => {
  const confirm = useConfirm(useRig());
  if (paths.length === 0) return null;
  return (
    <HStack wrap="wrap" mt="2" fontSize="sm">
      <Box color="soft">
        Assumed by common practice:{" "}
        {paths
          .map((path) => labelOf(path))
          .join(", ")
          .toLowerCase()}
        .
      </Box>
      {owns && (
        <Plain size="sm" disabled={confirm.isPending} onClick={() => confirm.mutate(paths)}>
          That is right
        </Plain>
      )}
      <Problem error={confirm.error} />
    </HStack>
  );
};

interface Props {
  part: Part;
  number?: number;
  /** What its gauge was found to be worth. */
  worth?: string[];
  open: boolean;
  owns: boolean;
  toggle: () => void;
  children: ReactNode;
}

/** One part: closed a line that says what it is; open its fields, with what follows from them beside. */
export const PartRow = ({ part, number, worth = [], open, owns, toggle, children }: Props) => {
  const { checks, assumed } = useAboard();
  const guessed = assumed.filter((path) => path.startsWith(`${part.place}.`));
  const warned = checks.filter((check) => check.place === part.place && check.warns);
  return (
    <li>
      <Box role="group" aria-label={part.name} borderTopWidth="1px" borderColor="rule" data-place={part.place}>
        <Head type="button" aria-expanded={open} onClick={toggle}>
          <Box as="span" fontWeight="600">
            {number !== undefined && `${number} `}
            {part.name}
          </Box>
          {guessed.length > 0 && (
            <Box as="span" ml="2" fontSize="sm" borderWidth="1px" borderStyle="dashed" borderColor="edge" px="1">
              {ASSUMED}
            </Box>
          )}
          <Box fontSize="sm" color="soft">
            {part.words}
          </Box>
          {worth[0] && (
            <Box fontSize="sm" color="soft">
              Gauge: {worth[0]}
            </Box>
          )}
          {!open &&
            warned.map((check) => (
              <Box key={check.words} fontSize="sm" color="warn">
                {check.words}
              </Box>
            ))}
        </Head>
        {open && (
          <Box bg="sunken" borderRadius="md" p="3" mb="2">
            <Checks place={part.place} />
            {worth.slice(1).map((words) => (
              <Box key={words} fontSize="sm" mb="1">
                Gauge: {words}
              </Box>
            ))}
            {owns ? children : null}
            <Assumed paths={guessed} owns={owns} />
          </Box>
        )}
      </Box>
    </li>
  );
};
