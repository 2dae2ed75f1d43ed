import { Box, Flex } from "@chakra-ui/react";

import type { Schemas } from "../api/client";
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
          <Box fontWeight="600">What the heat needs</Box>
          <Rows name="What the heat needs">
            {heat.needs.map((need) => (
              <Row key={need.id} first={need.first}>
                {need.words}
              </Row>
            ))}
          </Rows>
          <Box fontWeight={heat.levers.length > 0 ? "600" : undefined} mb={heat.levers.length > 0 ? undefined : "3"}>
            {heat.levers_words}
          </Box>
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
