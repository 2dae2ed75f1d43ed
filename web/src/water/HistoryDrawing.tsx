import { Box, HStack } from "@chakra-ui/react";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { Caption, Level } from "../charts/Axis";
import { Bar } from "../charts/Bar";
import { Lane } from "../charts/Lane";
import { amountScale } from "../charts/scales";
import { Plain } from "../parts/Plain";
import { useWidth } from "../parts/width";

const HEIGHT = 150;
const FOOT = 126;
const LEFT = 40;
const WIDEST = 34;

/** Litres a person a day by week or month, and how that changed. */
export const HistoryDrawing = ({ water }: { water: Schemas["WaterOut"] }) => {
  const [box, full] = useWidth();
  const [months, setMonths] = useState(false);
  const stretches = months ? water.months : water.weeks;
  const width = Math.max(full - LEFT, 100);
  const each = width / Math.max(stretches.length, 1);
  const height = amountScale(Math.max(...stretches.map((one) => one.value), 1) * 1.1, FOOT - 14);
  const bar = Math.min(each * 0.6, WIDEST);
  const every = Math.ceil(stretches.length / (width / 56));
  return (
    <Box ref={box}>
      <Box mb="2">{water.trend}</Box>
      <HStack mb="2" role="group" aria-label="By week or month">
        <Plain size="sm" aria-pressed={!months} onClick={() => setMonths(false)}>
          By week
        </Plain>
        <Plain size="sm" aria-pressed={months} onClick={() => setMonths(true)}>
          By month
        </Plain>
      </HStack>
      {full > 0 && stretches.length > 0 && (
        <Lane words={stretches.map((one) => one.words).join(". ")} width={full} height={HEIGHT} left={LEFT}>
          {stretches.map((one, index) => {
            const x = index * each + (each - bar) / 2;
            const top = FOOT - height(one.value);
            return (
              <g key={one.label}>
                <title>{one.words}</title>
                <Bar x={x} y={top} width={bar} height={FOOT - top} fill="hue.sea.line" part="stretch" />
                <Caption x={x + bar / 2} y={top - 4} anchor="middle" ink="ink">
                  {Math.round(one.value * 10) / 10}
                </Caption>
                {index % every === 0 && (
                  <Caption x={x + bar / 2} y={HEIGHT - 8} anchor="middle">
                    {one.short}
                  </Caption>
                )}
              </g>
            );
          })}
          <Level y={FOOT} width={width} strong>
            {water.unit}
          </Level>
        </Lane>
      )}
    </Box>
  );
};
