import { Box, chakra, Flex } from "@chakra-ui/react";

import { isSky, SkyMark } from "../parts/Sky";
import { weekday } from "../parts/words";
import type { HorizonDay, Strip } from "./strip";

const Cell = chakra("button", {
  base: {
    position: "absolute",
    top: 0,
    bottom: 0,
    display: "flex",
    flexDirection: "column",
    alignItems: "center",
    justifyContent: "flex-start",
    gap: "0.5",
    pt: "1",
    fontSize: "xs",
    lineHeight: "1.15",
    borderLeftWidth: "1px",
    borderColor: "rule",
    overflow: "hidden",
    _disabled: { color: "soft" },
    "&:not(:disabled)": { cursor: "pointer", _hover: { bg: "sunken" } },
  },
});

/** Weekday, date, sky and cold of each day; coming days are opened to change their plan. */
export const DayScale = ({ strip, open }: { strip: Strip; open: (day: HorizonDay) => void }) => {
  const today = strip.days.find((day) => day.coming)?.date;
  return (
    <Box position="relative" height="92px" width={`${strip.width}px`}>
      {strip.days.map((day) => {
        const left = strip.x(day.starts_at);
        const isToday = day.date === today;
        return (
          <Cell
            key={day.date}
            type="button"
            disabled={!day.coming}
            onClick={() => open(day)}
            aria-label={day.coming ? `${day.words}, change the plan` : day.words}
            style={{ left: `${left}px`, width: `${strip.x(day.ends_at) - left}px` }}
            fontWeight={isToday ? 700 : 400}
          >
            <span>{weekday(day.date)}</span>
            <Box as="span" fontSize="md" fontFamily="heading" fontWeight={isToday ? 700 : 500}>
              {Number(day.date.slice(8))}
            </Box>
            <Flex height="18px">{isSky(day.sky) && <SkyMark sky={day.sky} size={17} />}</Flex>
            {day.temp_max !== null && day.temp_min !== null && (
              <Box as="span" fontSize="11px">
                {Math.round(day.temp_min)}/{Math.round(day.temp_max)}°
              </Box>
            )}
            {day.planned && (
              <Box as="span" fontSize="11px" fontWeight="600">
                {day.planned}
              </Box>
            )}
          </Cell>
        );
      })}
    </Box>
  );
};
