import { Box, chakra, Flex, Grid, Heading, HStack, NativeSelect } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link as RouterLink } from "react-router";

import { client, type Schemas, take } from "../api/client";
import { gaugesQuery, rigQuery } from "../api/queries";
import { useRig } from "../app/rig";
import { Choice, NumberEntry, TextEntry } from "../parts/Entry";
import { Problem, Refused, Waiting } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { CrewAccounts } from "./CrewAccounts";
import { freshId, KINDS, newStore, type RigDoc, type StoreDoc, type Units } from "./fields";
import { PartList } from "./PartList";
import { StoreFields } from "./StoreFields";

const Section = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box as="section" aria-label={title} mb="8">
    <Heading as="h2" size="lg" fontFamily="heading" mb="3" pb="1" borderBottomWidth="1px" borderColor="rule">
      {title}
    </Heading>
    {children}
  </Box>
);

const Checks = ({ checks, place }: { checks: Schemas["CheckOut"][]; place: string }) => (
  <Box as="ul" listStyleType="none" mb="2">
    {checks
      .filter((check) => check.place === place)
      .map((check) => (
        <Box as="li" key={check.words} color={check.warns ? "warn" : "soft"} fontSize="sm">
          {check.words}
        </Box>
      ))}
  </Box>
);

interface Edited {
  doc: RigDoc;
  units: Units;
  checks: Schemas["CheckOut"][];
  assumed: (path: string) => boolean;
  change: (doc: RigDoc) => void;
}

const Crew = ({ doc, change }: Edited) => {
  const crew = (part: Partial<RigDoc["crew"]>) => change({ ...doc, crew: { ...doc.crew, ...part } });
  return (
    <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3">
      <TextEntry label="Name of the rig" value={doc.name} onValue={(name) => change({ ...doc, name })} />
      <TextEntry label="Timezone" value={doc.timezone} onValue={(timezone) => change({ ...doc, timezone })} />
      <Choice
        label="Units"
        value={doc.units}
        options={[
          ["metric", "litres, kg, km, °C"],
          ["us", "gallons, lb, miles, °F"],
          ["uk", "litres, kg, miles, °C"],
        ]}
        onValue={(units) => change({ ...doc, units: units as RigDoc["units"] })}
      />
      <NumberEntry label="Adults" value={doc.crew.adults} onValue={(adults) => crew({ adults: adults ?? 1 })} />
      <NumberEntry
        label="Children"
        value={doc.crew.children}
        onValue={(children) => crew({ children: children ?? 0 })}
      />
      <NumberEntry label="Animals" value={doc.crew.pets} onValue={(pets) => crew({ pets: pets ?? 0 })} />
    </Grid>
  );
};

/** What the store's gauge has been found to be worth. */
const GaugeFound = ({ found }: { found: Schemas["GaugeOut"] | undefined }) =>
  found ? (
    <Box fontSize="sm" mb="2">
      Gauge: {found.words.join(" ")}
    </Box>
  ) : null;

const Stores = ({ doc, units, checks, assumed, change }: Edited) => {
  const gauges = useQuery(gaugesQuery(useRig())).data ?? [];
  const [kind, setKind] = useState<StoreDoc["kind"]>("fresh");
  return (
    <>
      {doc.stores.map((store, index) => (
        <Box key={store.id} role="group" aria-label={store.name} mb="4">
          <Box fontWeight="600">{store.name}</Box>
          <Checks checks={checks} place={`stores.${store.id}`} />
          <GaugeFound found={gauges.find((gauge) => gauge.store === store.id)} />
          <StoreFields
            store={store}
            units={units}
            assumed={(name) => assumed(`stores.${store.id}.${name}`)}
            change={(next) => change({ ...doc, stores: doc.stores.map((each, at) => (at === index ? next : each)) })}
            remove={() => change({ ...doc, stores: doc.stores.filter((each) => each.id !== store.id) })}
          />
        </Box>
      ))}
      <HStack>
        <NativeSelect.Root width="12rem">
          <NativeSelect.Field
            aria-label="Kind of the new store"
            bg="raised"
            borderColor="edge"
            value={kind}
            onChange={(event) => setKind(event.target.value as StoreDoc["kind"])}
          >
            {KINDS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </NativeSelect.Field>
          <NativeSelect.Indicator />
        </NativeSelect.Root>
        <Plain
          onClick={() =>
            change({
              ...doc,
              stores: [
                ...doc.stores,
                newStore(
                  kind,
                  doc.stores.map((store) => store.id),
                ),
              ],
            })
          }
        >
          Add a store
        </Plain>
      </HStack>
    </>
  );
};

const Energy = ({ doc, checks, assumed, change }: Edited) => {
  const fuels = [
    ["", "none"] as const,
    ...doc.stores.filter((store) => store.kind === "fuel").map((store) => [store.id, store.name] as const),
  ];
  const solar = doc.solar ?? [];
  const sources = doc.sources ?? [];
  return (
    <>
      <Section title="Solar arrays">
        {solar.map((array) => (
          <Checks key={array.id} checks={checks} place={`solar.${array.id}`} />
        ))}
        <PartList<NonNullable<RigDoc["solar"]>[number]>
          title="Array"
          parts={solar}
          assumed={(id, key) => assumed(`solar.${id}.${key}`)}
          columns={[
            { key: "watts", label: "Nameplate", kind: "number", unit: "W" },
            { key: "tilt_deg", label: "Tilt", kind: "number", unit: "°" },
            { key: "azimuth_deg", label: "Faces, from north", kind: "number", unit: "°" },
            { key: "controller_amps", label: "Controller", kind: "number", unit: "A" },
            { key: "horizon_deg", label: "Hidden under", kind: "number", unit: "° up" },
          ]}
          change={(next) => change({ ...doc, solar: next })}
          add={() => ({
            id: freshId(
              "array",
              solar.map((each) => each.id),
            ),
            watts: 100,
            tilt_deg: 0,
            azimuth_deg: 180,
          })}
        />
      </Section>
      <Section title="Other ways to charge">
        {sources.map((source) => (
          <Checks key={source.id} checks={checks} place={`sources.${source.id}`} />
        ))}
        <PartList
          title="Source"
          parts={sources}
          assumed={(id, key) => assumed(`sources.${id}.${key}`)}
          columns={[
            {
              key: "kind",
              label: "Kind",
              kind: "choice",
              options: [
                ["alternator", "alternator"],
                ["shore", "post"],
                ["generator", "generator"],
              ],
            },
            { key: "amps", label: "Into the bank", kind: "number", unit: "A" },
            { key: "fuel_store", label: "Burns from", kind: "choice", options: fuels },
            { key: "fuel_l_per_h", label: "Burns", kind: "number", unit: "L/h" },
          ]}
          change={(next) =>
            change({ ...doc, sources: next.map((each) => ({ ...each, fuel_store: each.fuel_store || null })) })
          }
          add={() => ({
            id: freshId(
              "source",
              sources.map((each) => each.id),
            ),
            kind: "alternator" as const,
            amps: 20,
          })}
        />
        <Box color="soft" fontSize="sm" mt="2">
          Generators run outdoors, exhaust away from people, never beside a window. Mains and battery work by licensed
          people and local code.
        </Box>
      </Section>
    </>
  );
};

const Inverter = ({ doc, change }: Edited) => {
  const inverter = doc.inverter;
  if (!inverter)
    return (
      <Plain onClick={() => change({ ...doc, inverter: { watts: 1000, idle_watts: 10, efficiency: 0.9 } })}>
        Add an inverter
      </Plain>
    );
  const set = (part: Partial<typeof inverter>) => change({ ...doc, inverter: { ...inverter, ...part } });
  return (
    <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(6, 1fr)" }} gap="3" alignItems="end">
      <NumberEntry
        label="Continuous"
        unit="W"
        value={inverter.watts}
        onValue={(watts) => set({ watts: watts ?? 1000 })}
      />
      <NumberEntry
        label="Surge"
        unit="W"
        value={inverter.surge_watts}
        onValue={(surge_watts) => set({ surge_watts })}
      />
      <NumberEntry
        label="Idle"
        unit="W"
        value={inverter.idle_watts}
        onValue={(idle) => set({ idle_watts: idle ?? 0 })}
      />
      <NumberEntry
        label="Efficiency"
        unit="%"
        value={(inverter.efficiency ?? 0.9) * 100}
        onValue={(share) => set({ efficiency: (share ?? 90) / 100 })}
      />
      <Choice
        label="It is on"
        value={inverter.always_on ? "always" : "used"}
        options={[
          ["used", "while it is used"],
          ["always", "all day"],
        ]}
        onValue={(on) => set({ always_on: on === "always" ? true : null })}
      />
      <Plain size="sm" tone="warn" onClick={() => change({ ...doc, inverter: null })}>
        Remove the inverter
      </Plain>
    </Grid>
  );
};

const Loads = ({ doc, checks, assumed, change }: Edited) => {
  const loads = doc.loads ?? [];
  return (
    <>
      <Checks checks={checks} place="loads" />
      <PartList
        title="Load"
        parts={loads}
        assumed={(id, key) => assumed(`loads.${id}.${key}`)}
        columns={[
          { key: "name", label: "Name", kind: "text" },
          { key: "watts", label: "Draws", kind: "number", unit: "W" },
          { key: "hours_per_day", label: "Runs", kind: "number", unit: "h a day" },
          {
            key: "via",
            label: "Through",
            kind: "choice",
            options: [
              ["dc", "the bank"],
              ["inverter", "the inverter"],
            ],
          },
          {
            key: "when",
            label: "When",
            kind: "choice",
            options: [
              ["any", "day and night"],
              ["day", "by day"],
              ["night", "at night"],
            ],
          },
        ]}
        change={(next) => change({ ...doc, loads: next })}
        add={() => ({
          id: freshId(
            "load",
            loads.map((each) => each.id),
          ),
          name: "New load",
          watts: 10,
          hours_per_day: 1,
          via: "dc" as const,
          when: "any" as const,
        })}
      />
    </>
  );
};

const KeepBar = ({
  draft,
  problem,
  busy,
  keep,
  discard,
}: {
  draft: RigDoc | null;
  problem: Error | null;
  busy: boolean;
  keep: () => void;
  discard: () => void;
}) =>
  draft === null ? null : (
    <Box
      position="sticky"
      bottom="0"
      bg="sunken"
      p="3"
      borderTopWidth="2px"
      borderColor="bind"
      zIndex={2}
      role="region"
      aria-label="Changes not kept yet"
    >
      <Flex gap="3" align="center" wrap="wrap">
        <Box fontWeight="600">Changed, not kept yet.</Box>
        <Plain tone="strong" disabled={busy} onClick={keep}>
          Keep the changes
        </Plain>
        <Plain onClick={discard}>Discard</Plain>
      </Flex>
      <Problem error={problem} />
    </Box>
  );

/** Everything aboard: what it is, what it makes together, and its lines. */
export const RigView = () => {
  const rig = useRig();
  const queries = useQueryClient();
  const found = useQuery(rigQuery(rig));
  const [draft, setDraft] = useState<RigDoc | null>(null);
  const path = { params: { path: { rig_id: String(rig) } } };
  const tried = useQuery({
    queryKey: ["rig", rig, "checks", draft],
    enabled: draft !== null,
    retry: false,
    queryFn: ({ signal }) => take(client.POST("/api/rigs/{rig_id}/checks", { ...path, body: draft as RigDoc, signal })),
  });
  const save = useMutation({
    mutationFn: (doc: RigDoc) => take(client.PUT("/api/rigs/{rig_id}", { ...path, body: doc })),
    onSuccess: async () => {
      setDraft(null);
      await queries.invalidateQueries();
    },
  });
  if (found.isPending) return <Waiting what="the rig" />;
  if (found.isError && !found.data) return <Refused error={found.error} again={() => void found.refetch()} />;
  const doc = draft ?? found.data.doc;
  const checks = (draft ? tried.data : undefined) ?? found.data.checks;
  const owner = found.data.role === "owner";
  const guessed = found.data.assumed;
  const edited: Edited = {
    doc,
    units: found.data.units,
    checks,
    assumed: (name) => guessed.includes(name),
    change: (next) => {
      save.reset();
      setDraft(next);
    },
  };
  return (
    <Box maxW="70rem" mx="auto">
      <Flex justify="space-between" align="baseline" wrap="wrap" mb="4">
        <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
          {doc.name}
        </Heading>
        <RouterLink to="/set-up">
          <Box as="span" textDecoration="underline">
            Set up another rig
          </Box>
        </RouterLink>
      </Flex>
      {!owner && <Box mb="4">You are crew on this rig: you can log; its owner changes what is aboard.</Box>}
      <chakra.fieldset disabled={!owner} border="none" p="0" minW="0">
        <Section title="Crew and units">
          <Crew {...edited} />
        </Section>
        <Section title="Stores and their lines">
          <Checks checks={checks} place="weight" />
          <Stores {...edited} />
        </Section>
        <Energy {...edited} />
        <Section title="Inverter">
          <Checks checks={checks} place="inverter" />
          <Inverter {...edited} />
        </Section>
        <Section title="Loads">
          <Loads {...edited} />
        </Section>
      </chakra.fieldset>
      <Section title="Accounts">
        <CrewAccounts rig={rig} owner={owner} />
      </Section>
      <KeepBar
        draft={draft}
        problem={save.error ?? tried.error}
        busy={save.isPending}
        keep={() => draft && save.mutate(draft)}
        discard={() => setDraft(null)}
      />
    </Box>
  );
};
