import { Box } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { Caption, Level } from "../charts/Axis";
import { Bar } from "../charts/Bar";
import { Lane } from "../charts/Lane";
import { Extent } from "../charts/Mark";
import { amountScale } from "../charts/scales";
import { useWidth } from "../parts/width";

type Night = Schemas["ColdNightOut"];

const [HEIGHT, COLD_FOOT, BURN_FOOT, LEFT] = [212, 92, 186, 44];
const [COLD_TOP, BURN_HEIGHT, WIDEST] = [30, 66, 30];
/** Where nights stand closer than this, a low is written over its night and not beside it. */
const NARROW = 42;

/** Where a temperature stands between the coldest and the warmest of the strip. */
const coldScale = (nights: Night[]) => {
  const low = Math.min(...nights.map((night) => night.low_p10));
  const high = Math.max(...nights.map((night) => night.low_p90), low + 4);
  const per = (COLD_FOOT - COLD_TOP) / (high - low);
  return (degrees: number) => COLD_FOOT - (degrees - low) * per;
};

const shown = (value: number): string => String(Math.round(value * 10) / 10).replace("-", "−");

/** The nights ahead: above how cold each gets, with its spread; below what heating its day burns, with its own. */
export const NightsDrawing = ({ heat, unit }: { heat: Schemas["HeatOut"]; unit: string }) => {
  const [box, full] = useWidth();
  const nights = heat.strip;
  const width = Math.max(full - LEFT, 100);
  const each = width / Math.max(nights.length, 1);
  const bar = Math.min(each * 0.55, WIDEST);
  const cold = coldScale(nights);
  const burn = amountScale(Math.max(...nights.map((night) => night.burn_p90), 0.1), BURN_HEIGHT);
  return (
    <Box ref={box} minW="0">
      {full > 0 && (
        <Lane words={nights.map((night) => night.words).join(". ")} width={full} height={HEIGHT} left={LEFT}>
          <Caption x={-LEFT} y={12}>
            {`Low of the night, ${unit}`}
          </Caption>
          <Caption x={-LEFT} y={COLD_FOOT + 24}>
            {`Heating burns a day, ${heat.burn_unit} of ${heat.burn_name}`}
          </Caption>
          {nights.map((night, index) => {
            const middle = index * each + each / 2;
            const top = BURN_FOOT - burn(night.burn);
            return (
              <g key={night.date} data-part="night">
                <title>{night.words}</title>
                <Extent x={middle} top={cold(night.low_p90)} bottom={cold(night.low_p10)} />
                <Bar x={middle - 4} y={cold(night.low) - 2} width={8} height={4} fill="ink" part="low" />
                {each < NARROW ? (
                  <Caption x={middle} y={cold(night.low_p90) - 4} anchor="middle" ink="ink">
                    {shown(night.low)}
                  </Caption>
                ) : (
                  <Caption x={middle + 7} y={cold(night.low) + 4} ink="ink">
                    {shown(night.low)}
                  </Caption>
                )}
                <Bar
                  x={middle - bar / 2}
                  y={top}
                  width={bar}
                  height={BURN_FOOT - top}
                  fill={night.short ? "warn" : "hue.rust.line"}
                  open={night.short}
                  part={night.short ? "burn-short" : "burn"}
                />
                <Extent x={middle} top={BURN_FOOT - burn(night.burn_p90)} bottom={BURN_FOOT - burn(night.burn_p10)} />
                <Caption x={middle} y={HEIGHT - 8} anchor="middle">
                  {night.label}
                </Caption>
              </g>
            );
          })}
          <Level y={BURN_FOOT} width={width} strong />
        </Lane>
      )}
    </Box>
  );
};
