import { Box, chakra, Flex, VisuallyHidden } from "@chakra-ui/react";

import { isSky, SkyMark } from "../parts/Sky";
import { useRove } from "../parts/rove";
import { weekday } from "../parts/words";
import { DAYS_HEIGHT, type HorizonDay, type Strip } from "./strip";

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
    cursor: "pointer",
    _hover: { bg: "sunken" },
  },
});

/** Weekday, date, sky and cold of each day; coming days open their plan, past ones their page of the Logbook. */
export const DayScale = ({ strip, open }: { strip: Strip; open: (day: HorizonDay) => void }) => {
  const today = strip.days.find((day) => day.coming)?.date;
  const days = useRove("ArrowLeft", "ArrowRight");
  return (
    <Box
      {...days.box}
      role="group"
      aria-label="Days: go through them with the left and right keys"
      position="relative"
      height={`${DAYS_HEIGHT}px`}
      width={`${strip.width}px`}
    >
      {strip.days.map((day, n) => {
        const left = strip.x(day.starts_at);
        const isToday = day.date === today;
        return (
          <Cell
            key={day.date}
            type="button"
            {...days.rove(n)}
            onClick={() => open(day)}
            title={day.words}
            style={{ left: `${left}px`, width: `${strip.x(day.ends_at) - left}px` }}
            fontWeight={isToday ? 700 : 400}
            color={day.coming ? "ink" : "soft"}
          >
            <span>{weekday(day.date)} </span>
            <Box as="span" fontSize="md" fontFamily="heading" fontWeight={isToday ? 700 : 500}>
              {Number(day.date.slice(8))}
            </Box>
            <Flex height="18px">{isSky(day.sky) && <SkyMark sky={day.sky} size={17} />}</Flex>
            {day.temp_max !== null && day.temp_min !== null && (
              <Box as="span" fontSize="11px">
                {Math.round(day.temp_min)}/{Math.round(day.temp_max)}°
              </Box>
            )}
            <VisuallyHidden>
              {`: ${day.words}, ${day.coming ? "change the plan" : "open in the Logbook"}`}
            </VisuallyHidden>
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
