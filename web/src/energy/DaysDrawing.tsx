import { Box, HStack } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { Caption, Level, Upright } from "../charts/Axis";
import { Bar, Bracket, Lid } from "../charts/Bar";
import { Lane } from "../charts/Lane";
import { Extent } from "../charts/Mark";
import { type Ledger, ledgerScale } from "../charts/scales";
import { Plain } from "../parts/Plain";
import { Sheet } from "../parts/Sheet";
import { isSky, SkyShape } from "../parts/Sky";
import { useWidth } from "../parts/width";
import { dateWords, weekday } from "../parts/words";

type EnergyDay = Schemas["EnergyDayOut"];

const BODY = 150;
const HEAD = 44;
const LEFT = 48;
const MOST_BAR = 22;
const NARROW = 600;
const HEADS = ["Day", "Sky", "Sun offered", "Sun taken", "Unused: battery full", "Charged otherwise", "Drawn"];

const wordsOf = (day: EnergyDay): string => `${dateWords(day.date)}: ${day.words}`;

/** One date on the ledger line: what came in stands on it, what was drawn hangs from it. */
const Day = ({ day, width, ledger }: { day: EnergyDay; width: number; ledger: Ledger }) => {
  const { zero, of } = ledger;
  const bar = Math.min(width * 0.5, MOST_BAR);
  const left = (width - bar) / 2;
  const [taken, other] = [of(day.taken ?? 0), of(day.other)];
  return (
    <g>
      <title>{wordsOf(day)}</title>
      <Bar
        x={left}
        y={zero - taken}
        width={bar}
        height={taken}
        fill={day.coming ? "hue.amber.wash" : "hue.amber.line"}
        part="taken"
      />
      <Bar x={left} y={zero - taken - other} width={bar} height={other} fill="hue.moss.line" part="other" />
      <Bracket x={left - 4} y={zero - of(day.offered)} width={bar + 8} part="offered" />
      {day.coming && <Extent x={width / 2} top={zero - of(day.offered_high)} bottom={zero - of(day.offered_low)} />}
      {day.full && day.taken !== null && <Lid x={left} y={zero - taken - 3} width={bar} />}
      <Bar x={left} y={zero} width={bar} height={of(day.load)} fill="edge" open={!day.load_logged} part="drawn" />
    </g>
  );
};

const Head = ({ day, width }: { day: EnergyDay; width: number }) => {
  const ink = day.coming ? "ink" : "soft";
  const name = weekday(day.date);
  return (
    <>
      <Caption x={width / 2} y={-31} anchor="middle" ink={ink}>
        {width > 26 ? name : name.slice(0, 1)}
      </Caption>
      <Caption x={width / 2} y={-17} size="13px" anchor="middle" ink={ink}>
        {Number(day.date.slice(8))}
      </Caption>
      {isSky(day.sky) && <SkyShape sky={day.sky} x={width / 2 - 7} y={-14} size={14} />}
    </>
  );
};

const Key = () => (
  <HStack as="ul" listStyleType="none" gap="4" wrap="wrap" fontSize="sm" color="soft" mt="1">
    <Box as="li">Filled, up: sun taken (pale: expected)</Box>
    <Box as="li">Bracket: sun offered</Box>
    <Box as="li">Red line: the bank came near full, more was offered than taken</Box>
    <Box as="li">Green, up: engine, hookup or generator</Box>
    <Box as="li">Down: drawn (open: as learned)</Box>
  </HStack>
);

const Drawing = ({ days, full }: { days: EnergyDay[]; full: number }) => {
  const width = full - LEFT;
  const each = width / days.length;
  const ledger = ledgerScale(
    Math.max(...days.map((day) => Math.max(day.offered_high, (day.taken ?? 0) + day.other))),
    Math.max(...days.map((day) => day.load)),
    BODY,
  );
  const first = days.findIndex((day) => day.coming);
  return (
    <Lane words={days.map(wordsOf).join(". ")} width={full} height={BODY + HEAD + 6} left={LEFT} top={HEAD}>
      {[1, 2].map((kwh) => {
        const y = ledger.zero - ledger.of(kwh * 1000);
        return y > 4 ? (
          <Level key={kwh} y={y} width={width}>
            {kwh} kWh
          </Level>
        ) : null;
      })}
      {days.map((day, index) => (
        <g key={day.date} transform={`translate(${index * each},0)`}>
          <Head day={day} width={each} />
          <Day day={day} width={each} ledger={ledger} />
        </g>
      ))}
      <Level y={ledger.zero} width={width} strong>
        0
      </Level>
      {first > 0 && <Upright x={first * each} top={-40} bottom={BODY} strong part="now" />}
    </Lane>
  );
};

/** In and out by day: sun offered against sun taken, what else charged, what was drawn. */
export const DaysDrawing = ({ days }: { days: EnergyDay[] }) => {
  const [box, full] = useWidth();
  const [table, setTable] = useState(false);
  const coming = days.findIndex((day) => day.coming);
  const shown = full < NARROW ? days.slice(Math.max(0, coming - 7), coming + 4) : days;
  return (
    <Box ref={box}>
      {table ? (
        <Sheet name="In and out by day" heads={HEADS} rows={days.map((day) => [dateWords(day.date), ...day.cells])} />
      ) : (
        full > 0 && <Drawing days={shown} full={full} />
      )}
      {!table && <Key />}
      <Plain size="sm" mt="2" aria-pressed={table} onClick={() => setTable(!table)}>
        As a table
      </Plain>
    </Box>
  );
};
