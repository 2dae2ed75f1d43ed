import { Box, Grid, HStack, Input } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { rationQuery } from "../api/queries";
import { useRig, useRole } from "../api/rig";
import { Caption, Level, Upright } from "../charts/Axis";
import { Band } from "../charts/Band";
import { Lane } from "../charts/Lane";
import { Line, LodeLine } from "../charts/Line";
import { levelScale, time, timeScale } from "../charts/scales";
import { Choose } from "../parts/Choose";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { useWidth } from "../parts/width";
import { dateWords, weekday } from "../parts/words";

type Water = Schemas["WaterOut"];
type RationOut = Schemas["RationOut"];

const SURE = [
  ["0.8", "8 in 10"],
  ["0.9", "9 in 10"],
  ["0.95", "19 in 20"],
] as const;
const HEIGHT = 150;
const BOTTOM = 124;
const LEFT = 44;

/** The fresh tank if the ration is kept, beside what is expected if nobody does without. */
const PathDrawing = ({ ration, water }: { ration: RationOut; water: Water }) => {
  const [box, full] = useWidth();
  const { fresh } = water;
  const [first, last] = [ration.path[0], ration.path.at(-1)];
  if (!fresh || !first || !last) return null;
  const width = Math.max(full - LEFT - 8, 100);
  const [x, y] = [timeScale(time(first.at), time(last.at), width), levelScale(fresh.capacity, BOTTOM, 10)];
  const fan = fresh.fan.filter((point) => time(point.at) <= time(last.at));
  return (
    <Box ref={box} mt="3">
      {full > 0 && (
        <Lane
          words={`${ration.headline} Full line: the fresh tank if it is kept; dotted: as usual.`}
          width={full}
          height={HEIGHT}
          left={LEFT}
        >
          {[0, fresh.capacity].map((level) => (
            <Level key={level} y={y(level)} width={width}>
              {Math.round(level)} {water.unit}
            </Level>
          ))}
          {ration.path.slice(1, -1).map((point) => (
            <g key={point.at}>
              <Upright x={x(point.at)} top={6} bottom={BOTTOM} />
              <Caption x={x(point.at)} y={HEIGHT - 8} anchor="middle">
                {weekday(point.at.slice(0, 10))}
              </Caption>
            </g>
          ))}
          <Band points={fan} x={x} y={y} low={(p) => p.p10} high={(p) => p.p90} fill="hue.sea.wash" part="fan" />
          <Line points={fan} x={x} y={y} level={(p) => p.p50} stroke="hue.sea.line" dotted />
          <Line points={ration.path} x={x} y={y} level={(p) => p.level} stroke="ink" part="ration" />
          <LodeLine y={y(fresh.line)} width={width} />
        </Lane>
      )}
      <Box as="p" fontSize="sm" color="soft">
        Full line: if the ration is kept. Dotted, with its range: as usual. Dashed: the lode line.
      </Box>
    </Box>
  );
};

const Answer = ({ ration, water }: { ration: RationOut; water: Water }) => (
  <Box aria-live="polite" data-part="ration-answer">
    <Box fontSize="lg">{ration.headline}</Box>
    <Box color="soft">
      {ration.binds} {ration.left}
    </Box>
    {ration.floor && (
      <Box color="warn" role="note" mt="1">
        {ration.floor}
      </Box>
    )}
    {ration.allows.length > 0 && (
      <Box as="ul" mt="2" pl="5" listStyleType="disc" aria-label="What the ration allows">
        {ration.allows.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </Box>
    )}
    <Box color="soft" fontSize="sm" mt="1">
      What is cut first follows how hard you said each change is:{" "}
      <Link to="/">
        <Box as="span" textDecoration="underline">
          What buys time
        </Box>
      </Link>
      , on the Horizon. Drinking and cooking are never cut.
    </Box>
    <PathDrawing ration={ration} water={water} />
  </Box>
);

/** To last until a day: so many litres a day, in what they allow. */
export const Ration = ({ water, settled }: { water: Water; settled: boolean }) => {
  const rig = useRig();
  const { writes } = useRole();
  const [wanted, setUntil] = useState<string | null>(null);
  // a day that has gone by meanwhile is not asked about
  const until = wanted === "" || (wanted !== null && wanted >= water.ration_least) ? wanted : water.ration_usual;
  const [sure, setSure] = useState("0.9");
  const keep = useTell(rig, "post", "/water/ration/keep");
  const end = useTell(rig, "post", "/agreed/end", (lever: string) => ({ body: { lever } }));
  const kept = water.ration;
  const asks = kept === null || kept.until !== until;
  const answer = useQuery(rationQuery(rig, asks ? until : "", Number(sure), settled));
  const shown = asks ? answer.data : kept;
  return (
    <Box>
      <Grid templateColumns="minmax(0, 11rem) minmax(0, 9rem)" gap="3" mb="3">
        <Labelled label="To last until the morning of">
          <Input
            type="date"
            bg="raised"
            borderColor="edge"
            min={water.ration_least}
            max={water.ration_most}
            value={until}
            onChange={(event) => setUntil(event.target.value)}
          />
        </Labelled>
        <Choose label="How sure" value={sure} options={SURE} onValue={setSure} />
      </Grid>
      {water.after && <Box color="soft">{water.after}</Box>}
      {shown ? (
        <Answer ration={shown} water={water} />
      ) : (
        until && !answer.isError && <Box role="status">Working ...</Box>
      )}
      <Problem error={asks ? answer.error : null} />
      {writes && (
        <HStack mt="3" wrap="wrap">
          {asks && until !== "" && shown && (
            <Plain tone="strong" disabled={keep.isPending} onClick={() => keep.mutate({ until, sure: Number(sure) })}>
              Keep this ration
            </Plain>
          )}
          {kept && (
            <Plain disabled={end.isPending} onClick={() => end.mutate("ration")}>
              End the ration until {dateWords(kept.until)}
            </Plain>
          )}
        </HStack>
      )}
      <Problem error={keep.error ?? end.error} />
    </Box>
  );
};
