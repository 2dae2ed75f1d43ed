import { Box, HStack } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { Caption, Upright } from "../charts/Axis";
import { Bar } from "../charts/Bar";
import { Lane } from "../charts/Lane";
import { amountScale } from "../charts/scales";
import { Plain } from "../parts/Plain";
import { Sheet } from "../parts/Sheet";
import { useWidth } from "../parts/width";

type Balance = Schemas["BalanceOut"];

const ROW = 40;
const BAR = 16;
const PAD = 10;
const GREYS = "grey-";

interface Step {
  id: string;
  name: string;
  words: string;
  from: number;
  to: number;
  sd: number;
  fill: string;
}

/** What was drawn, then what became of it, one after the other; what is left over stands at the end. */
const stepsOf = (balance: Balance): Step[] => {
  let at = 0;
  const drawn: Step = {
    id: "drawn",
    name: "Drawn",
    words: balance.drawn_words,
    from: 0,
    to: balance.drawn,
    sd: balance.drawn_sd,
    fill: "hue.sea.line",
  };
  const parts = balance.flows.map((flow): Step => {
    const from = at;
    at += flow.value;
    const fill = flow.id.startsWith(GREYS) ? "hue.slate.line" : "hue.sea.wash";
    return { id: flow.id, name: flow.name, words: flow.words, from, to: at, sd: flow.sd, fill };
  });
  return [drawn, ...parts];
};

const Drawing = ({ balance, full }: { balance: Balance; full: number }) => {
  const steps = stepsOf(balance);
  const reach = Math.max(...steps.map((step) => Math.max(step.from, step.to) + step.sd), 1);
  const x = amountScale(reach, full - 2 * PAD);
  const height = (steps.length + (balance.apart_words ? 1 : 0)) * ROW + 4;
  const end = steps.at(-1)?.to ?? 0;
  return (
    <Lane words={balance.words} width={full} height={height} left={PAD}>
      <Upright x={x(balance.drawn)} top={18} bottom={height} part="drawn-end" />
      {steps.map((step, index) => {
        const top = index * ROW + 18;
        const [left, right] = [Math.min(x(step.from), x(step.to)), Math.max(x(step.from), x(step.to))];
        return (
          <g key={step.id} data-part="step">
            <Caption x={0} y={top - 5} size="13px" ink="ink">
              {step.name}: {step.words}
            </Caption>
            <Bar x={left} y={top} width={Math.max(right - left, 1)} height={BAR} fill={step.fill} part={step.id} />
            <Error from={x(Math.max(0, step.to - step.sd))} to={x(step.to + step.sd)} y={top + BAR / 2} />
          </g>
        );
      })}
      {balance.apart_words && (
        <g data-part="apart">
          <Caption x={0} y={height - ROW + 13} size="13px" ink={balance.closes ? "ink" : "warn"}>
            {balance.apart_words}
          </Caption>
          <Bar
            x={Math.min(x(end), x(balance.drawn))}
            y={height - ROW + 18}
            width={Math.max(1, Math.abs(x(balance.drawn) - x(end)))}
            height={BAR}
            fill={balance.closes ? "edge" : "warn"}
            open
            part="left-over"
          />
        </g>
      )}
    </Lane>
  );
};

/** How far a sum may be off: a level stroke with two ends. */
const Error = ({ from, to, y }: { from: number; to: number; y: number }) => (
  <path
    d={`M${from},${y - 4}v8M${from},${y}H${to}M${to},${y - 4}v8`}
    fill="none"
    stroke="currentColor"
    strokeWidth="1.4"
    data-part="error"
  />
);

/** What left the fresh tanks in a day, a week, a stay, and where it went. */
export const BalanceDrawing = ({ balances }: { balances: Balance[] }) => {
  const [box, full] = useWidth();
  const [chosen, choose] = useState("week");
  const [table, setTable] = useState(false);
  const balance = balances.find((each) => each.id === chosen) ?? balances.at(-1);
  if (balance === undefined) return <Box color="soft">Nothing is known of the fresh water in these days.</Box>;
  return (
    <Box ref={box} color="ink">
      <HStack mb="3" role="group" aria-label="Over which time" wrap="wrap">
        {balances.map((each) => (
          <Plain key={each.id} size="sm" aria-pressed={each.id === balance.id} onClick={() => choose(each.id)}>
            {each.name}
          </Plain>
        ))}
      </HStack>
      {table ? (
        <Sheet
          name="The balance"
          heads={["What", "How much"]}
          rows={[["Drawn", balance.drawn_words], ...balance.flows.map((flow) => [flow.name, flow.words])].concat(
            balance.apart_words ? [["Sum", balance.apart_words]] : [],
          )}
        />
      ) : (
        full > 0 && <Drawing balance={balance} full={full} />
      )}
      <Box mt="2" color={balance.closes ? "soft" : "warn"} role={balance.closes ? undefined : "note"}>
        {balance.closes_words}
      </Box>
      <Box color="soft" fontSize="sm">
        {balance.moved}
      </Box>
      <Plain size="sm" mt="2" aria-pressed={table} onClick={() => setTable(!table)}>
        As a table
      </Plain>
    </Box>
  );
};
