import { Box } from "@chakra-ui/react";
import { type PointerEvent, useRef, useState } from "react";

import type { Schemas } from "../api/client";
import { time } from "../charts/scales";
import { onKeys } from "../parts/keys";
import { dateWords, timeOfDay } from "../parts/words";
import { rowOf, type Strip } from "./strip";

type Stop = Schemas["StopOut"];

const DAY_MS = 86_400_000;
const DRAGGED_PX = 4;
const [LABEL_PX, STAY_PX] = [144, 76];

/** The same time of day so many days later, by the day bounds of the strip. */
const movedBy = (strip: Strip, at: string, days: number): string | null => {
  const from = strip.days.findIndex((day) => time(day.starts_at) <= time(at) && time(at) < time(day.ends_at));
  const [own, other] = [strip.days[from], strip.days[from + days]];
  if (!own || !other || !other.coming) return null;
  return new Date(time(other.starts_at) + (time(at) - time(own.starts_at))).toISOString();
};

/** A stop on its day: dragged, or moved by the arrow keys, to another one. */
const Flag = ({
  stop,
  strip,
  at,
  move,
  attempt,
}: {
  stop: Stop;
  strip: Strip;
  at: Place;
  move: (stop: Stop, arrive: string) => void;
  attempt: Attempt;
}) => {
  const [drag, setDrag] = useState(0);
  const [began, tried] = [useRef<number | null>(null), useRef(0)];
  const dayPx = strip.width / Math.max(1, (strip.to - strip.from) / DAY_MS);
  const by = (days: number) => {
    const arrive = days === 0 ? null : movedBy(strip, stop.arrive.at, days);
    if (arrive) move(stop, arrive);
  };
  const down = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    began.current = event.clientX;
    // the first answer takes longest: it is asked for as the stop is taken up
    attempt(stop, stop.arrive.at);
  };
  const over = (event: PointerEvent) => {
    if (began.current === null) return;
    setDrag(event.clientX - began.current);
    // each day that it is over is answered once
    const days = Math.round((event.clientX - began.current) / dayPx);
    if (days === tried.current) return;
    tried.current = days;
    attempt(stop, days === 0 ? null : movedBy(strip, stop.arrive.at, days));
  };
  const up = () => {
    const far = drag;
    began.current = null;
    tried.current = 0;
    setDrag(0);
    attempt(stop, null);
    if (Math.abs(far) > DRAGGED_PX) by(Math.round(far / dayPx));
  };
  return (
    <Box
      asChild
      position="absolute"
      top="1"
      height={`${rowOf(strip).flag}px`}
      px="1.5"
      bg={stop.fixed ? "accent" : "raised"}
      color={stop.fixed ? "onAccent" : "ink"}
      borderWidth="1px"
      borderColor="accent"
      borderRadius="sm"
      fontSize="xs"
      fontWeight="600"
      cursor="grab"
      touchAction="none"
      overflow="hidden"
      whiteSpace="nowrap"
      textOverflow="ellipsis"
      zIndex="2"
      style={{
        left: `${at.left}px`,
        minWidth: `${rowOf(strip).least}px`,
        maxWidth: `${at.width}px`,
        transform: `translateX(${drag}px)`,
      }}
    >
      <button
        type="button"
        data-stop={stop.place}
        data-by-hand={stop.fixed}
        title={`${stop.words} ${stop.does}`}
        aria-label={`${stop.name}, ${dateWords(stop.arrive.date)} ${timeOfDay(stop.arrive.time)}. ${stop.does}. Move it by the arrow keys.`}
        onKeyDown={onKeys({ ArrowLeft: () => by(-1), ArrowRight: () => by(1) })}
        onPointerDown={down}
        onPointerMove={over}
        onPointerUp={up}
      >
        {stop.name}
      </button>
    </Box>
  );
};

/** What would come of a stop at another time is asked while it is dragged; null: it is let go. */
export type Attempt = (stop: Stop, arrive: string | null) => void;

interface Place {
  left: number;
  width: number;
}

/** Where each label stands: none over another, and none beyond the end of the strip, so that each can be pressed. */
const placed = (stops: Stop[], strip: Strip): Place[] => {
  const least = rowOf(strip).least;
  const lefts: number[] = [];
  for (const stop of stops) lefts.push(Math.max(strip.x(stop.arrive.at), (lefts.at(-1) ?? -least) + least));
  // those that would stand beyond the end move up before it
  for (let at = lefts.length - 1, most = strip.width - least; at >= 0; at--, most -= least)
    lefts[at] = Math.max(0, Math.min(lefts[at] ?? 0, most));
  return lefts.map((left, at) => ({ left, width: Math.min(LABEL_PX, (lefts[at + 1] ?? strip.width) - left) }));
};

/** The end of the stay: dragged, or moved by the arrow keys. */
const StayFlag = ({ until, strip, ask }: { until: string; strip: Strip; ask: (until: string) => void }) => {
  const [drag, setDrag] = useState(0);
  const began = useRef<number | null>(null);
  const at = strip.days.findIndex((day) => day.date === until);
  const coming = strip.days.filter((day) => day.coming).slice(1);
  const day = strip.days[at];
  const dayPx = strip.width / Math.max(1, (strip.to - strip.from) / DAY_MS);
  const by = (days: number) => {
    const next = strip.days[at + days]?.date;
    if (next && coming.some((each) => each.date === next)) ask(next);
  };
  if (!day) return null;
  return (
    <Box
      asChild
      position="absolute"
      top={`${rowOf(strip).stay}px`}
      height={`${rowOf(strip).flag}px`}
      px="1"
      borderLeftWidth="3px"
      borderColor="good"
      color="good"
      fontSize="xs"
      fontWeight="700"
      cursor="ew-resize"
      touchAction="none"
      zIndex="3"
      bg="page"
      style={{
        left: `${Math.min(strip.x(day.starts_at), strip.width - STAY_PX)}px`,
        transform: `translateX(${drag}px)`,
      }}
    >
      <button
        type="button"
        role="slider"
        data-part="stay-flag"
        aria-label="End of the stay"
        aria-valuemin={0}
        aria-valuemax={coming.length - 1}
        aria-valuenow={coming.findIndex((each) => each.date === until)}
        aria-valuetext={dateWords(until, true)}
        onKeyDown={onKeys({ ArrowLeft: () => by(-1), ArrowRight: () => by(1) })}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          began.current = event.clientX;
        }}
        onPointerMove={(event) => began.current !== null && setDrag(event.clientX - began.current)}
        onPointerUp={() => {
          const days = Math.round(drag / dayPx);
          began.current = null;
          setDrag(0);
          if (days !== 0) by(days);
        }}
      >
        stay until
      </button>
    </Box>
  );
};

/** The row over the lanes where planned stops stand on their days, and the end of the stay. */
export const PlannedStops = ({
  stops,
  strip,
  until,
  move,
  attempt,
  ask,
}: {
  stops: Stop[];
  strip: Strip;
  until: string;
  move: (stop: Stop, arrive: string) => void;
  attempt: Attempt;
  ask: (until: string) => void;
}) => {
  const shown = stops.filter((stop) => time(stop.arrive.at) <= strip.to);
  const places = placed(shown, strip);
  return (
    <Box
      position="relative"
      height={`${rowOf(strip).height}px`}
      width={`${strip.width}px`}
      role="group"
      aria-label="Planned stops and the end of the stay"
    >
      {shown.map((stop, at) => (
        <Flag
          key={`${stop.place} ${stop.arrive.at}`}
          stop={stop}
          strip={strip}
          at={places[at] ?? NOWHERE}
          move={move}
          attempt={attempt}
        />
      ))}
      {until !== "" && <StayFlag until={until} strip={strip} ask={ask} />}
    </Box>
  );
};

const NOWHERE: Place = { left: 0, width: 0 };
