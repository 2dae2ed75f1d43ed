import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { Bar } from "../charts/Bar";
import { Lane } from "../charts/Lane";
import { amountScale } from "../charts/scales";

const WIDTH = 150;
const HEIGHT = 22;

/** What an activity takes a day: from the low to the high end of its range, with its middle. */
const Span = ({ use, most }: { use: Schemas["UseOut"]; most: number }) => {
  const x = amountScale(most, WIDTH - 4);
  return (
    <Lane words={`${use.name}: ${use.day} a day`} width={WIDTH} height={HEIGHT} left={2}>
      <Bar x={0} y={8} width={x(use.p50)} height={6} fill="hue.sea.wash" />
      <Bar x={x(use.p10)} y={10} width={Math.max(1, x(use.p90) - x(use.p10))} height={2} fill="ink" part="range" />
      <Bar x={x(use.p50) - 1.5} y={5} width={3} height={12} fill="hue.sea.line" part="middle" />
    </Lane>
  );
};

/** Where the water goes by what it is used for, with what one takes and how well the log tells it. */
export const Uses = ({ water }: { water: Schemas["WaterOut"] }) => {
  const most = Math.max(...water.uses.map((use) => use.p90), 1);
  return (
    <Box>
      <Box as="ul" listStyleType="none" aria-label="Use by activity">
        {water.uses.map((use) => (
          <Flex
            key={use.id}
            as="li"
            wrap="wrap"
            columnGap="4"
            align="center"
            justify="space-between"
            py="1.5"
            borderTopWidth="1px"
            borderColor="rule"
            data-use={use.id}
          >
            <Box flex="1 1 14rem" minW="0">
              <Box fontWeight={600}>{use.name}</Box>
              <Box fontSize="sm" color="soft">
                {use.often}
                {use.each !== "–" && `, ${use.each} each`}; {use.told}
              </Box>
            </Box>
            <Box whiteSpace="nowrap">{use.day} a day</Box>
            <Span use={use} most={most} />
          </Flex>
        ))}
      </Box>
      {water.cannot_tell && (
        <Box mt="2" role="note">
          {water.cannot_tell}
        </Box>
      )}
      <Box mt="2" color="soft" fontSize="sm">
        {water.uses_words} {water.floors}
      </Box>
      {water.hot && (
        <Box mt="2" fontSize="sm">
          {water.hot}
        </Box>
      )}
    </Box>
  );
};
