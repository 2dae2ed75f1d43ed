import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
import { Fold } from "../parts/Fold";
import { useIsPhone } from "../parts/phone";
import { NightsDrawing } from "./NightsDrawing";

const Rows = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <Box as="ul" listStyleType="none" aria-label={name} mb="3">
    {children}
  </Box>
);

const Row = ({ first, children }: { first?: string; children: React.ReactNode }) => (
  <Flex as="li" py="1.5" gap="3" borderTopWidth="1px" borderColor="rule" align="baseline">
    <Box flex="1">{children}</Box>
    {first && (
      <Box color="soft" fontVariantNumeric="tabular-nums" whiteSpace="nowrap">
        {first}
      </Box>
    )}
  </Flex>
);

/** How the heat holds, what it needs, colder nights, and what would buy time. */
export const Heat = ({ fuel }: { fuel: Schemas["FuelOut"] }) => {
  const { heat } = fuel;
  const phone = useIsPhone();
  return (
    <Box>
      {heat && (
        <>
          <NightsDrawing heat={heat} unit={fuel.temp_unit} />
          <Rows name="Nights left">
            {heat.colder.map((line) => (
              <Row key={line}>{line}</Row>
            ))}
          </Rows>
          <Fold title="What the heat needs" open={!phone}>
            <Rows name="What the heat needs">
              {heat.needs.map((need) => (
                <Row key={need.id} first={need.first}>
                  {need.words}
                </Row>
              ))}
            </Rows>
          </Fold>
          {heat.levers.length > 0 ? (
            <Fold title={heat.levers_words} open={heat.short && !phone}>
              <Rows name="What would buy nights">
                {heat.levers.map((lever) => (
                  <Row key={lever.id}>
                    {lever.words}
                    <Box color="soft" fontSize="sm">
                      {lever.spares}
                    </Box>
                  </Row>
                ))}
              </Rows>
            </Fold>
          ) : (
            <Box mb="3">{heat.levers_words}</Box>
          )}
          <Box>{heat.morning}</Box>
          {heat.held && <Box>{heat.held}</Box>}
        </>
      )}
      <Box mt="1">{fuel.loss}</Box>
      {fuel.wet && (
        <Box mt="1" role="note">
          {fuel.wet}
        </Box>
      )}
    </Box>
  );
};
