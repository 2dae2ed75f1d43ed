import { Box, chakra, HStack } from "@chakra-ui/react";
import type { ReactNode } from "react";

import { LodeLine, Reach } from "../charts/Line";
import { EventMark, ReadingMark } from "../charts/Mark";

const Sample = ({ children }: { children: ReactNode }) => (
  <chakra.svg width="26px" height="16px" viewBox="0 0 26 16" aria-hidden flexShrink={0}>
    {children}
  </chakra.svg>
);

const SAMPLES: [ReactNode, string][] = [
  [<ReadingMark key="r" x={13} top={3} bottom={13} doubtful={false} words="" />, "a reading, over what it speaks for"],
  [<ReadingMark key="d" x={13} top={3} bottom={13} doubtful words="" />, "a reading that does not fit"],
  [<EventMark key="i" x={13} way="in" words="" />, "filled or swapped"],
  [<EventMark key="o" x={13} way="out" words="" />, "emptied"],
  [<EventMark key="e" x={13} way="other" words="" />, "something else that was done"],
  [<LodeLine key="l" y={8} width={26} />, "the lode line"],
  [<Reach key="w" from={2} to={24} middle={13} y={8} stroke="ink" />, "when the line may be reached"],
];

/** What the marks of the strip mean. */
export const Legend = () => (
  <Box asChild mt="4" fontSize="sm" color="soft">
    <details>
      <chakra.summary cursor="pointer" py="1">
        What the marks mean
      </chakra.summary>
      <HStack as="ul" listStyleType="none" wrap="wrap" gap="4" mt="1">
        {SAMPLES.map(([mark, words]) => (
          <HStack as="li" key={words} gap="2">
            <Sample>{mark}</Sample>
            {words}
          </HStack>
        ))}
        <Box as="li">
          shaded: where the level may lie, 8 in 10; dotted: what is expected; full line ahead: if the ration is kept
        </Box>
        <Box as="li">tap a lane, or step with the arrow keys, to read its marks</Box>
      </HStack>
    </details>
  </Box>
);
