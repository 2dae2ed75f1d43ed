import { Box, chakra, HStack } from "@chakra-ui/react";
import { useState } from "react";

import { Plain } from "../parts/Plain";
import { Sheet } from "../parts/Sheet";
import { SkyShape, type SkyWord } from "../parts/Sky";
import { dateWords, weekday } from "../parts/words";
import { useWidth } from "../parts/width";
import { dayScale, dayWords, type EnergyDay, spanWh, wh } from "./scales";

const Path = chakra("path");
const Line = chakra("line");
const Rect = chakra("rect");
const Text = chakra("text");

const BODY = 150;
const HEAD = 44;
const LEFT = 48;

type Of = ReturnType<typeof dayScale>;

/** One date on the ledger line: what came in stands on it, what was drawn hangs from it. */
const Day = ({ day, x, width, scale }: { day: EnergyDay; x: number; width: number; scale: Of }) => {
  const { zero, of } = scale;
  const bar = Math.min(width * 0.5, 22);
  const left = x + (width - bar) / 2;
  const taken = of(day.taken ?? 0);
  const offered = zero - of(day.offered);
  const [low, high] = [zero - of(day.offered_low), zero - of(day.offered_high)];
  const mid = x + width / 2;
  return (
    <g>
      <title>{`${dateWords(day.date)}: ${dayWords(day)}`}</title>
      <Rect
        x={left}
        y={zero - taken}
        width={bar}
        height={taken}
        fill={day.coming ? "store.battery.wash" : "store.battery.line"}
        data-part="taken"
      />
      <Rect
        x={left}
        y={zero - taken - of(day.other)}
        width={bar}
        height={of(day.other)}
        fill="store.fuel.line"
        opacity="0.75"
        data-part="other"
      />
      <Path
        d={`M${left - 4},${offered + 5}v-5h${bar + 8}v5`}
        fill="none"
        stroke="ink"
        strokeWidth="1.2"
        data-part="offered"
      />
      {day.coming && <Line x1={mid} x2={mid} y1={low} y2={high} stroke="ink" strokeWidth="1" opacity="0.6" />}
      {day.full && day.taken !== null && (
        <Line x1={left} x2={left + bar} y1={zero - taken - 3} y2={zero - taken - 3} stroke="bind" strokeWidth="2" />
      )}
      <Rect
        x={left}
        y={zero}
        width={bar}
        height={of(day.load)}
        fill={day.load_logged ? "edge" : "none"}
        stroke="edge"
        strokeWidth="1.2"
        data-part="drawn"
      />
    </g>
  );
};

const Key = () => (
  <HStack as="ul" listStyleType="none" gap="4" wrap="wrap" fontSize="sm" color="soft" mt="1">
    <Box as="li">Filled, up: sun taken (pale: expected)</Box>
    <Box as="li">Bracket: sun offered</Box>
    <Box as="li">Red line: bank full, more was offered than taken</Box>
    <Box as="li">Green, up: engine, post or generator</Box>
    <Box as="li">Down: drawn (open: as learned)</Box>
  </HStack>
);

const Drawing = ({ days, full }: { days: EnergyDay[]; full: number }) => {
  const width = full - LEFT;
  const each = width / days.length;
  const scale = dayScale(days, BODY);
  const first = days.findIndex((day) => day.coming);
  return (
    <chakra.svg
      role="img"
      aria-label={days.map((day) => `${dateWords(day.date)}: ${dayWords(day)}`).join(". ")}
      width={`${full}px`}
      height={`${BODY + HEAD + 6}px`}
    >
      <g transform={`translate(${LEFT},${HEAD})`}>
        {[scale.zero - scale.of(1000), scale.zero - scale.of(2000)].map((y, index) =>
          y > 4 ? (
            <g key={y}>
              <Line x1={0} x2={width} y1={y} y2={y} stroke="rule" opacity="0.6" />
              <Text x={-6} y={y + 4} fontSize="11px" fill="soft" textAnchor="end">
                {index + 1} kWh
              </Text>
            </g>
          ) : null,
        )}
        <Text x={-6} y={scale.zero + 4} fontSize="11px" fill="soft" textAnchor="end">
          0
        </Text>
        {days.map((day, index) => (
          <g key={day.date} transform={`translate(${index * each},0)`}>
            <Text x={each / 2} y={-31} fontSize="11px" fill={day.coming ? "ink" : "soft"} textAnchor="middle">
              {each > 26 ? weekday(day.date) : weekday(day.date).slice(0, 1)}
            </Text>
            <Text x={each / 2} y={-17} fontSize="13px" fill={day.coming ? "ink" : "soft"} textAnchor="middle">
              {Number(day.date.slice(8))}
            </Text>
            {day.sky && <SkyShape sky={day.sky as SkyWord} x={each / 2 - 7} y={-14} size={14} />}
            <Day day={day} x={0} width={each} scale={scale} />
          </g>
        ))}
        <Line x1={0} x2={width} y1={scale.zero} y2={scale.zero} stroke="ink" />
        {first > 0 && (
          <Line x1={first * each} x2={first * each} y1={-40} y2={BODY} stroke="ink" strokeWidth="1.5" data-part="now" />
        )}
      </g>
    </chakra.svg>
  );
};

const Table = ({ days }: { days: EnergyDay[] }) => (
  <Sheet
    heads={["Day", "Sky", "Sun offered", "Sun taken", "Thrown away", "Charged otherwise", "Drawn"]}
    rows={days.map((day) => [
      dateWords(day.date),
      day.sky ?? "–",
      day.coming ? spanWh(day) : `about ${wh(day.offered)}`,
      day.taken === null ? "not logged" : `${day.coming ? "about " : day.full ? "at least " : ""}${wh(day.taken)}`,
      day.wasted !== null && day.wasted >= 1
        ? `about ${wh(day.wasted)}`
        : day.full && day.taken !== null && day.offered > day.taken
          ? `about ${wh(day.offered - day.taken)}`
          : "–",
      day.other > 0 ? wh(day.other) : "–",
      `${day.load_logged ? "" : "about "}${wh(day.load)}`,
    ])}
  />
);

/** In and out by day: sun offered against sun taken, what else charged, what was drawn. */
export const DaysDrawing = ({ days }: { days: EnergyDay[] }) => {
  const [box, full] = useWidth();
  const [table, setTable] = useState(false);
  const coming = days.findIndex((day) => day.coming);
  const shown = full < 600 ? days.slice(Math.max(0, coming - 7), coming + 4) : days;
  return (
    <Box ref={box}>
      {table ? <Table days={days} /> : full > 0 && <Drawing days={shown} full={full} />}
      {!table && <Key />}
      <Plain size="sm" mt="2" aria-pressed={table} onClick={() => setTable(!table)}>
        As a table
      </Plain>
    </Box>
  );
};
