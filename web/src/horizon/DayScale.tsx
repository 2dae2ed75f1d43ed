import { Box, chakra, Flex } from "@chakra-ui/react";

import { SkyMark, type SkyWord } from "../parts/Sky";
import { dateWords, weekday } from "../parts/words";
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

const label = (day: HorizonDay, unit: string): string =>
  [
    dateWords(day.date, true),
    day.sky ?? "sky not known",
    day.temp_min !== null && day.temp_max !== null
      ? `${Math.round(day.temp_min)} to ${Math.round(day.temp_max)} ${unit}`
      : null,
    day.place,
    day.coming ? "change what it brings" : null,
  ]
    .filter(Boolean)
    .join(", ");

const planned = (day: HorizonDay): string | null => {
  if (!day.coming) return null;
  if (day.drive_hours) return "drive";
  if (day.status === "hookup" || day.shore_hours) return "post";
  if (day.generator_hours) return "gen.";
  return day.status === "moving" ? "move" : null;
};

/** Weekday, date, sky and cold of each day; coming days are opened to change what they bring. */
export const DayScale = ({ strip, unit, open }: { strip: Strip; unit: string; open: (day: HorizonDay) => void }) => (
  <Box position="relative" height="92px" width={`${strip.width}px`}>
    {strip.days.map((day) => {
      const left = strip.x(day.starts_at);
      const today = day.coming && !strip.days.some((other) => other.coming && other.date < day.date);
      return (
        <Cell
          key={day.date}
          type="button"
          disabled={!day.coming}
          onClick={() => open(day)}
          aria-label={label(day, unit)}
          style={{ left: `${left}px`, width: `${strip.x(day.ends_at) - left}px` }}
          fontWeight={today ? 700 : 400}
        >
          <span>{weekday(day.date)}</span>
          <Box as="span" fontSize="md" fontFamily="heading" fontWeight={today ? 700 : 500}>
            {Number(day.date.slice(8))}
          </Box>
          <Flex height="18px">{day.sky && <SkyMark sky={day.sky as SkyWord} size={17} />}</Flex>
          {day.temp_max !== null && day.temp_min !== null && (
            <Box as="span" fontSize="11px">
              {Math.round(day.temp_min)}/{Math.round(day.temp_max)}°
            </Box>
          )}
          {planned(day) && (
            <Box as="span" fontSize="11px" fontWeight="600">
              {planned(day)}
            </Box>
          )}
        </Cell>
      );
    })}
  </Box>
);
