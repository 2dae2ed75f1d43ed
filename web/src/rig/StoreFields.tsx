import { Box, Grid } from "@chakra-ui/react";

import { Choice, NumberEntry, TextEntry } from "../parts/Entry";
import { Plain } from "../parts/Plain";
import { Rating } from "./Rating";
import { baseUnit, type Shown, shownIn, type StoreDoc, type Units } from "./fields";

interface Props {
  store: StoreDoc;
  units: Units;
  assumed: (name: string) => boolean;
  change: (store: StoreDoc) => void;
  remove: () => void;
}

const GAUGES = [
  ["none", "none or a guess"],
  ["steps", "light panel with marks"],
  ["sensor", "sensor, per cent"],
  ["sight", "sight line"],
  ["scale", "scale"],
  ["shunt", "shunt"],
] as const;

const FUELS = { gas: ["propane", "butane"], fuel: ["diesel", "petrol"] } as const;

const gaugeOf = (kind: string): StoreDoc["gauge"] => {
  if (kind === "steps") return { kind, marks: [0, 0.33, 0.67, 1] };
  if (kind === "sensor") return { kind, resolution: 0.02 };
  return { kind: kind as "none" };
};

const note = (assumed: boolean) => (assumed ? "assumed, common practice" : undefined);

const Battery = ({ store, change }: Pick<Props, "store" | "change">) => {
  const layout = store.layout ?? null;
  const set = (part: Partial<NonNullable<StoreDoc["layout"]>>) =>
    layout && change({ ...store, capacity: null, layout: { ...layout, ...part } });
  return (
    <>
      <Choice
        label="Chemistry"
        value={store.chemistry ?? "lfp"}
        options={[
          ["lfp", "lithium iron phosphate"],
          ["agm", "AGM"],
          ["gel", "gel"],
          ["flooded", "flooded lead"],
          ["lead-carbon", "lead-carbon"],
        ]}
        onValue={(chemistry) => change({ ...store, chemistry: chemistry as StoreDoc["chemistry"] })}
      />
      <NumberEntry
        label="Nominal"
        unit="V"
        value={store.nominal_v}
        onValue={(nominal_v) => change({ ...store, nominal_v })}
      />
      <Choice
        label="Where it sits"
        value={store.kept_warm ? "warm" : "cold"}
        options={[
          ["cold", "in the weather's cold"],
          ["warm", "inside or heated"],
        ]}
        onValue={(where) => change({ ...store, kept_warm: where === "warm" ? true : null })}
      />
      {layout ? (
        <>
          <NumberEntry label="Each unit" unit="V" value={layout.unit_v} onValue={(v) => set({ unit_v: v ?? 12 })} />
          <NumberEntry label="Each unit" unit="Ah" value={layout.unit_ah} onValue={(v) => set({ unit_ah: v ?? 100 })} />
          <NumberEntry
            label="In series"
            value={layout.series}
            onValue={(v) => set({ series: v ?? 1 })}
            note="adds volts"
          />
          <NumberEntry
            label="Strings in parallel"
            value={layout.parallel}
            onValue={(v) => set({ parallel: v ?? 1 })}
            note="adds amp-hours"
          />
          <Box alignSelf="end">
            <Plain
              onClick={() => change({ ...store, layout: null, capacity: layout.unit_ah * (layout.parallel ?? 1) })}
            >
              Write the bank as one
            </Plain>
          </Box>
        </>
      ) : (
        <>
          <Rating store={store} change={change} />
          <Box alignSelf="end">
            <Plain
              onClick={() =>
                change({
                  ...store,
                  capacity: null,
                  layout: { unit_v: store.nominal_v ?? 12, unit_ah: store.capacity ?? 100, series: 1, parallel: 1 },
                })
              }
            >
              Write it as units in series and parallel
            </Plain>
          </Box>
        </>
      )}
    </>
  );
};

/** The marks of a panel: as shares, or measured while filling, by the amount at which each mark lights. */
const Marks = ({
  store,
  marks,
  contents,
  change,
}: {
  store: StoreDoc;
  marks: number[];
  contents: Shown;
  change: Props["change"];
}) => {
  const set = (next: number[]) => change({ ...store, gauge: { kind: "steps", marks: next } });
  const capacity = store.capacity ?? 0;
  return (
    <>
      <TextEntry
        label="Marks, shares of full"
        value={marks.join(", ")}
        onValue={(text) => {
          const typed = text
            .split(/[,;\s]+/)
            .filter(Boolean)
            .map(Number);
          if (typed.every((mark) => !Number.isNaN(mark))) set(typed);
        }}
      />
      {capacity > 0 &&
        marks.map(
          (mark, index) =>
            mark > 0 &&
            mark < 1 && (
              <NumberEntry
                key={index}
                label={`Measured while filling: mark ${Math.round(mark * 100)} % lights at`}
                unit={contents.unit}
                value={contents.show(mark * capacity)}
                onValue={(value) => {
                  const amount = contents.keep(value);
                  if (amount !== null)
                    set(marks.map((each, at) => (at === index ? Math.round((amount / capacity) * 1000) / 1000 : each)));
                }}
              />
            ),
        )}
    </>
  );
};

const Gauge = ({
  store,
  assumed,
  change,
  contents,
}: Pick<Props, "store" | "assumed" | "change"> & { contents: Shown }) => {
  const gauge = store.gauge ?? { kind: "none" as const };
  return (
    <>
      <Choice
        label={assumed("gauge") ? "Gauge (assumed)" : "Gauge"}
        value={gauge.kind}
        options={GAUGES}
        onValue={(kind) => change({ ...store, gauge: gaugeOf(kind) })}
      />
      {gauge.kind === "steps" && <Marks store={store} marks={gauge.marks} contents={contents} change={change} />}
      {gauge.kind === "sensor" && (
        <NumberEntry
          label="Steps of the sensor"
          unit="%"
          value={(gauge.resolution ?? 0.02) * 100}
          onValue={(v) => change({ ...store, gauge: { kind: "sensor", resolution: (v ?? 2) / 100 } })}
        />
      )}
    </>
  );
};

/** Everything about one store. */
export const StoreFields = ({ store, units, assumed, change, remove }: Props) => {
  const contents = shownIn(baseUnit(store), units);
  const kilos = shownIn("kg", units);
  const fuels = store.kind === "gas" || store.kind === "fuel" ? FUELS[store.kind] : null;
  return (
    <Box pb="4">
      <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(4, 1fr)" }} gap="3">
        <TextEntry label="Name" value={store.name} onValue={(name) => change({ ...store, name })} />
        {!store.layout && (
          <NumberEntry
            label="Capacity"
            unit={contents.unit}
            value={contents.show(store.capacity)}
            note={note(assumed("capacity"))}
            onValue={(value) => change({ ...store, capacity: contents.keep(value) })}
          />
        )}
        <NumberEntry
          label="Lode line"
          unit="% of capacity"
          value={store.limit === null || store.limit === undefined ? null : store.limit * 100}
          note={store.limit === null || store.limit === undefined ? "by kind, common practice" : undefined}
          onValue={(value) => change({ ...store, limit: value === null ? null : value / 100 })}
        />
        <Gauge store={store} assumed={assumed} change={change} contents={contents} />
        {store.kind === "battery" && <Battery store={store} change={change} />}
        {fuels && (
          <Choice
            label="Holds"
            value={store.fuel ?? fuels[0]}
            options={fuels.map((fuel) => [fuel, fuel] as const)}
            onValue={(fuel) => change({ ...store, fuel: fuel as StoreDoc["fuel"] })}
          />
        )}
        {store.kind === "gas" && (
          <NumberEntry
            label="Empty bottle (tare)"
            unit={kilos.unit}
            value={kilos.show(store.tare_kg)}
            onValue={(value) => change({ ...store, tare_kg: kilos.keep(value) })}
          />
        )}
        {store.kind !== "battery" && (
          <NumberEntry
            label="Reserve apart, not counted"
            unit={contents.unit}
            value={contents.show(store.reserve)}
            onValue={(value) => change({ ...store, reserve: contents.keep(value) })}
          />
        )}
        {store.kind === "supply" && (
          <>
            <TextEntry
              label="Counted in"
              value={store.unit ?? ""}
              onValue={(unit) => change({ ...store, unit: unit || null })}
            />
            <Choice
              label="Life aboard"
              value={store.sense ?? "drains"}
              options={[
                ["drains", "uses it up"],
                ["fills", "fills it"],
              ]}
              onValue={(sense) => change({ ...store, sense: sense as StoreDoc["sense"] })}
            />
          </>
        )}
      </Grid>
      <Box mt="2">
        <Plain size="sm" tone="warn" onClick={remove}>
          Remove {store.name}
        </Plain>
      </Box>
    </Box>
  );
};
