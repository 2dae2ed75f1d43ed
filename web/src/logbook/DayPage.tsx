import { Box, chakra, Flex, Grid, HStack, Table } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { client, type Schemas, take } from "../api/client";
import { historyQuery } from "../api/queries";
import { Choice, NumberEntry, TextEntry } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { SKIES, SkyMark, type SkyWord } from "../parts/Sky";
import { dateWords, whenWords } from "../parts/words";
import { AddEntry } from "./AddEntry";
import { EntryEditor } from "./EntryEditor";

type Day = Schemas["DayOut"];

const Sums = ({ day }: { day: Day }) => (
  <Box overflowX="auto">
    <Table.Root size="sm" variant="line" css={{ "& td, & th": { borderColor: "rule", bg: "transparent", px: "2" } }}>
      <Table.Header>
        <Table.Row>
          {["Store", "Used or flowed in", "Filled or emptied", "Readings said", "At the end"].map((name) => (
            <Table.ColumnHeader key={name} color="soft">
              {name}
            </Table.ColumnHeader>
          ))}
        </Table.Row>
      </Table.Header>
      <Table.Body>
        {day.sums.map((sum) => (
          <Table.Row key={sum.store}>
            <Table.Cell>{sum.name}</Table.Cell>
            <Table.Cell>{sum.used}</Table.Cell>
            <Table.Cell>{sum.moved ?? "–"}</Table.Cell>
            <Table.Cell color={sum.open ? "warn" : undefined}>
              {sum.off ?? "–"}
              {sum.open && ", does not close"}
            </Table.Cell>
            <Table.Cell>{sum.end}</Table.Cell>
          </Table.Row>
        ))}
      </Table.Body>
    </Table.Root>
  </Box>
);

const History = ({ rig, date }: { rig: number; date: string }) => {
  const history = useQuery(historyQuery(rig, date));
  if (history.isPending) return <Box color="soft">Loading the history ...</Box>;
  if (history.isError) return <Problem error={history.error} />;
  if (history.data.length === 0) return <Box color="soft">Nothing was changed since this day came here.</Box>;
  const say = (fields: Record<string, unknown> | null) =>
    fields
      ? Object.entries(fields)
          .filter(([key]) => !["date"].includes(key))
          .map(([key, value]) => `${key} ${typeof value === "object" ? JSON.stringify(value) : String(value)}`)
          .join(", ")
      : "nothing";
  return (
    <Box as="ul" listStyleType="none" fontSize="sm">
      {history.data.map((change, index) => (
        <Box as="li" key={index} py="1" borderBottomWidth="1px" borderColor="rule">
          {whenWords(change.at)}, {change.by ?? "an account since removed"} {change.action}{" "}
          {change.kind === "day" ? "the day" : `a ${change.kind}`}
          <Box color="soft">Before: {say(change.old)}</Box>
          <Box color="soft">After: {say(change.new)}</Box>
        </Box>
      ))}
    </Box>
  );
};

const Facts = ({ rig, day, units }: { rig: number; day: Day; units: { temp: string; water: string } }) => {
  const queries = useQueryClient();
  const change = useMutation({
    scope: { id: `day-${rig}-${day.date}` }, // in the order in which they were made
    mutationFn: (body: Schemas["DayIn"]) =>
      take(
        client.PUT("/api/rigs/{rig_id}/days/{on}", { params: { path: { rig_id: String(rig), on: day.date } }, body }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["rig", rig] }),
  });
  const keep = (body: Schemas["DayIn"]) => change.mutate(body);
  return (
    <Box mt="3">
      <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(4, 1fr)" }} gap="3">
        <Choice
          label="Sky"
          value={day.sky ?? ""}
          options={[["", "not known"], ...SKIES.map((sky) => [sky, sky] as const)]}
          onValue={(sky) => keep({ sky: (sky || null) as SkyWord | null })}
        />
        <Choice
          label="The rig was"
          value={day.status ?? ""}
          options={[
            ["", "not known"],
            ["parked", "parked"],
            ["moving", "moving"],
            ["hookup", "on a post"],
          ]}
          onValue={(status) => keep({ status: (status || null) as "parked" | null })}
        />
        <NumberEntry
          label="Coldest"
          unit={units.temp}
          value={day.temp_min}
          onValue={(temp_min) => keep({ temp_min })}
        />
        <NumberEntry
          label="Warmest"
          unit={units.temp}
          value={day.temp_max}
          onValue={(temp_max) => keep({ temp_max })}
        />
        <NumberEntry
          label="Slept aboard"
          unit="people"
          value={day.crew_aboard}
          onValue={(crew_aboard) => keep({ crew_aboard })}
        />
        <NumberEntry label="Solar yield" unit="Wh" value={day.solar_wh} onValue={(solar_wh) => keep({ solar_wh })} />
        <NumberEntry
          label="Drawn from the bank"
          unit="Wh"
          value={day.load_wh}
          onValue={(load_wh) => keep({ load_wh })}
        />
        <NumberEntry
          label="Water drawn, by meter"
          unit={units.water}
          value={day.water}
          onValue={(water) => keep({ water })}
        />
      </Grid>
      <Box mt="2">
        <TextEntry label="Note" value={day.note ?? ""} onValue={(note) => keep({ note: note || null })} />
      </Box>
      <Problem error={change.error} />
    </Box>
  );
};

const Head = chakra("button", {
  base: { width: "100%", textAlign: "left", cursor: "pointer", py: "2", _hover: { bg: "sunken" } },
});

const remarks = (day: Day): string =>
  [
    day.place,
    day.temps,
    day.status === "hookup" ? "on a post" : day.status,
    `${day.entries.filter((entry) => entry.kind === "reading").length} readings, ${day.entries.filter((entry) => entry.kind === "event").length} events`,
    day.changes > 0 ? `${day.changes} corrected` : null,
  ]
    .filter(Boolean)
    .join(" · ");

/** One day of the ledger: closed it is a line; open it has sums, entries, facts and history. */
export const DayPage = ({
  rig,
  day,
  units,
  startOpen,
}: {
  rig: number;
  day: Day;
  units: { temp: string; water: string };
  startOpen: boolean;
}) => {
  const [open, setOpen] = useState(startOpen);
  const [history, setHistory] = useState(false);
  const unclosed = day.doubts.length > 0 || day.sums.some((sum) => sum.open);
  return (
    <Box as="li" borderTopWidth="1px" borderColor="rule" data-date={day.date}>
      <Head type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
        <Flex gap="3" align="center" wrap="wrap">
          <Box fontWeight="600" minW="8rem">
            {dateWords(day.date)}
          </Box>
          <HStack minW="6rem">
            {day.sky && <SkyMark sky={day.sky as SkyWord} />}
            <span>{day.sky}</span>
          </HStack>
          <Box color="soft">{day.logged ? remarks(day) : "not logged; the levels are carried on"}</Box>
          {unclosed && (
            <Box color="warn" fontWeight="600">
              does not close
            </Box>
          )}
        </Flex>
      </Head>
      {open && (
        <Box pb="5" pl={{ base: "0", md: "4" }}>
          {day.doubts.map((doubt) => (
            <Box key={doubt} pl="3" mb="2" borderLeftWidth="3px" borderColor="warn">
              {doubt}
            </Box>
          ))}
          {day.note && <Box mb="2">{day.note}</Box>}
          <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} gap="5">
            <Sums day={day} />
            <Box>
              <Box as="ul" listStyleType="none">
                {day.entries.map((entry) => (
                  <EntryEditor key={`${entry.kind}${entry.id}`} rig={rig} entry={entry} />
                ))}
              </Box>
              <AddEntry rig={rig} date={day.date} />
            </Box>
          </Grid>
          <Facts rig={rig} day={day} units={units} />
          <Box mt="3">
            <Plain size="sm" aria-expanded={history} onClick={() => setHistory(!history)}>
              History
            </Plain>
            {history && <History rig={rig} date={day.date} />}
          </Box>
        </Box>
      )}
    </Box>
  );
};
