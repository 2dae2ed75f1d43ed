import { Box, chakra } from "@chakra-ui/react";
import { type MouseEvent, type ReactNode, useState } from "react";

import { time } from "../charts/scales";
import { onKeys } from "../parts/keys";
import { dateWords, timeOfDay } from "../parts/words";
import type { Lane, Strip } from "./strip";

interface Mark {
  key: string;
  at: string;
  words: string;
}

/** Readings and events that are on the strip, in order. */
const marksOf = (lane: Lane, strip: Strip): Mark[] => {
  const marks = [
    ...lane.readings.map((each) => ({
      key: `r${each.id}`,
      at: each.at,
      words: each.doubtful ? `${each.words} (does not fit)` : each.words,
    })),
    ...lane.events.map((each) => ({ key: `e${each.id}`, at: each.at, words: each.words })),
  ];
  return marks.filter((each) => time(each.at) >= strip.from).sort((a, b) => time(a.at) - time(b.at));
};

const NEAR_PX = 24;

/** A lane's drawing whose marks are read by tap, by touch and by the arrow keys. */
export const Marks = ({
  lane,
  strip,
  active,
  children,
}: {
  lane: Lane;
  strip: Strip;
  /** Whether the Tab key stops at it: its lane is the one that was gone to. */
  active: boolean;
  children: ReactNode;
}) => {
  const marks = marksOf(lane, strip);
  const [chosen, setChosen] = useState<string | null>(null);
  const at = marks.findIndex((each) => each.key === chosen);
  const mark = marks[at];
  const step = (by: number) => {
    if (marks.length === 0) return;
    const from = at < 0 ? (by > 0 ? -1 : marks.length) : at;
    setChosen(marks[Math.min(marks.length - 1, Math.max(0, from + by))]?.key ?? null);
  };
  const tap = (event: MouseEvent<HTMLElement>) => {
    const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
    const far = (each: Mark) => Math.abs(strip.x(each.at) - x);
    const near = marks.reduce<Mark | null>((best, each) => (best && far(best) <= far(each) ? best : each), null);
    setChosen(near && far(near) <= NEAR_PX && near.key !== chosen ? near.key : null);
  };
  return (
    <Box minW="0">
      <Box
        position="relative"
        tabIndex={active ? 0 : -1}
        role="group"
        aria-label={`${lane.name}, ${marks.length} readings and marks: step with the arrow keys`}
        onKeyDown={onKeys({ ArrowLeft: () => step(-1), ArrowRight: () => step(1), Escape: () => setChosen(null) })}
        onClick={tap}
      >
        {children}
        {mark && (
          <chakra.svg
            position="absolute"
            top="0"
            left="0"
            width={`${strip.width}px`}
            height="100%"
            pointerEvents="none"
            aria-hidden
          >
            <chakra.line x1={strip.x(mark.at)} x2={strip.x(mark.at)} y1="0" y2="100%" stroke="accent" strokeWidth="2" />
          </chakra.svg>
        )}
      </Box>
      <Box role="status" fontSize="sm" pl="1" data-part="mark-words">
        {mark && (
          <Box py="0.5">
            {dateWords(mark.at.slice(0, 10))}, {timeOfDay(mark.at.slice(11, 16))}: {mark.words}
          </Box>
        )}
      </Box>
    </Box>
  );
};
