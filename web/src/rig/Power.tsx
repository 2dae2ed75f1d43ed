import { Box, Grid } from "@chakra-ui/react";

import { Choice, NumberEntry } from "../parts/Entry";
import { Plain } from "../parts/Plain";
import { freshId, type RigDoc } from "./fields";
import { PartList } from "./PartList";
import { Checks, type Edited, Section } from "./Section";

/** What charges the bank. */
export const Charging = ({ doc, checks, assumed, change }: Edited) => {
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

export const Inverter = ({ doc, change }: Edited) => {
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

export const Loads = ({ doc, checks, assumed, change }: Edited) => {
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
