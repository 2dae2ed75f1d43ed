import { Box, Dialog, Grid, HStack } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";

import { client, type Schemas, take } from "../api/client";
import { horizonQuery } from "../api/queries";
import { useRig } from "../app/rig";
import { NumberEntry } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Over } from "../parts/Over";
import { Plain } from "../parts/Plain";
import { SKIES, SkyMark } from "../parts/Sky";
import { dateWords } from "../parts/words";
import type { HorizonDay } from "./strip";

const STATUS = ["parked", "moving", "hookup"] as const;

/** Changes what a coming day brings; every change is kept at once and every lane answers. */
export const DayEditor = ({
  day,
  tempUnit,
  close,
}: {
  day: HorizonDay | null;
  tempUnit: string;
  close: () => void;
}) => {
  const rig = useRig();
  const queries = useQueryClient();
  const change = useMutation({
    // one after the other: each answer is a whole Horizon, and the last one shown must be that of the last change
    scope: { id: `outlook-${rig}` },
    mutationFn: (body: Schemas["OutlookIn"]) =>
      take(
        client.PUT("/api/rigs/{rig_id}/outlook/{on}", {
          params: { path: { rig_id: String(rig), on: day?.date ?? "" } },
          body,
        }),
      ),
    onSuccess: (horizon) => queries.setQueryData(horizonQuery(rig).queryKey, horizon),
  });
  const keep = (body: Schemas["OutlookIn"]) => change.mutate(body);
  return (
    <Over
      open={day !== null}
      close={close}
      title={day && `${dateWords(day.date, true)} brings`}
      foot={
        <Plain tone="strong" onClick={close}>
          Done
        </Plain>
      }
      size="sm"
      placement="center"
    >
      {day && (
        <Dialog.Body display="grid" gap="4">
          <Box role="group" aria-label="Sky">
            <HStack wrap="wrap">
              {SKIES.map((sky) => (
                <Plain
                  key={sky}
                  aria-pressed={day.sky === sky}
                  onClick={() => keep({ sky: day.sky === sky ? null : sky })}
                >
                  <SkyMark sky={sky} /> {sky}
                </Plain>
              ))}
            </HStack>
          </Box>
          <Box role="group" aria-label="Where the rig is">
            <HStack wrap="wrap">
              {STATUS.map((status) => (
                <Plain
                  key={status}
                  aria-pressed={day.status === status}
                  onClick={() => keep({ status: day.status === status ? null : status })}
                >
                  {status === "hookup" ? "on a post" : status}
                </Plain>
              ))}
            </HStack>
          </Box>
          <Grid templateColumns="1fr 1fr" gap="3">
            <NumberEntry
              label="Coldest"
              unit={tempUnit}
              value={day.temp_min}
              onValue={(temp_min) => keep({ temp_min })}
            />
            <NumberEntry
              label="Warmest"
              unit={tempUnit}
              value={day.temp_max}
              onValue={(temp_max) => keep({ temp_max })}
            />
            <NumberEntry
              label="Sleeping aboard"
              unit="people"
              value={day.crew_aboard}
              onValue={(crew_aboard) => keep({ crew_aboard })}
            />
            <NumberEntry
              label="Drive"
              unit="h"
              value={day.drive_hours}
              onValue={(drive_hours) => keep({ drive_hours })}
            />
            <NumberEntry
              label="On a post"
              unit="h"
              value={day.shore_hours}
              onValue={(shore_hours) => keep({ shore_hours })}
            />
            <NumberEntry
              label="Generator"
              unit="h"
              value={day.generator_hours}
              onValue={(generator_hours) => keep({ generator_hours })}
            />
          </Grid>
          <Problem error={change.error} />
        </Dialog.Body>
      )}
    </Over>
  );
};
