import { Box, Grid } from "@chakra-ui/react";
import { useFormContext, useWatch } from "react-hook-form";

import { CATALOGUE, type Choice, choices, kindOf } from "../api/catalogue";
import { type AsText, ChoiceField, NumberField, type Shown, TextField, TicksField } from "../forms/fields";
import { baseUnit, perCent, type RigDoc, shownIn, type StoreDoc } from "../forms/rig";
import { Plain } from "../parts/Plain";
import { Gauge } from "./Gauge";
import { Rating } from "./Rating";
import { useAboard, useAssumed } from "./Section";

type At = `stores.${number}`;

/** A yes, a no, or nothing said yet. */
const SAID: AsText = {
  text: (value) => (value === true ? "yes" : value === false ? "no" : ""),
  value: (text) => (text === "" ? null : text === "yes"),
};
const NOT_SAID: Choice = ["", "not said yet"];
const YES_NO: Choice[] = [NOT_SAID, ["yes", "yes"], ["no", "no"]];
const COUNTS: AsText = { text: (value) => (value ? "yes" : "no"), value: (text) => (text === "yes" ? true : null) };
const SERVED: AsText = { text: (value) => (value as string | null) ?? "stop", value: (text) => text };
const SENSES = [
  ["drains", "uses it up"],
  ["fills", "fills it"],
] as const;
const NEW_LAYOUT = { series: 1, parallel: 1 };

/** A bank as units in series and parallel; the capacity is what parallel strings make. */
const Layout = ({ at, store }: { at: At; store: StoreDoc }) => {
  const { setValue } = useFormContext<RigDoc>();
  const { layout } = store;
  const change = (next: Partial<StoreDoc>) => setValue(at, { ...store, ...next }, { shouldDirty: true });
  if (!layout)
    return (
      <>
        <Rating at={at} nominal={store.nominal_v} />
        <Box alignSelf="end">
          <Plain
            onClick={() =>
              change({
                capacity: null,
                layout: { ...NEW_LAYOUT, unit_v: store.nominal_v ?? 12, unit_ah: store.capacity ?? 100 },
              })
            }
          >
            Give it as units in series and parallel
          </Plain>
        </Box>
      </>
    );
  return (
    <>
      <NumberField name={`${at}.layout.unit_v`} label="Each unit" unit="V" />
      <NumberField name={`${at}.layout.unit_ah`} label="Each unit" unit="Ah" />
      <NumberField name={`${at}.layout.series`} note="adds volts" />
      <NumberField name={`${at}.layout.parallel`} note="adds amp-hours" />
      <Box alignSelf="end">
        <Plain onClick={() => change({ layout: null, capacity: layout.unit_ah * (layout.parallel ?? 1) })}>
          Give it as one bank
        </Plain>
      </Box>
    </>
  );
};

const STARTS: AsText = {
  text: (value) => (value ? "engine" : "house"),
  value: (text) => (text === "engine" ? true : null),
};

const Battery = ({ at, store }: { at: At; store: StoreDoc }) => (
  <>
    <ChoiceField name={`${at}.chemistry`} options={choices(CATALOGUE.chemistries)} />
    <NumberField name={`${at}.nominal_v`} />
    <ChoiceField
      name={`${at}.kept_warm`}
      label="Where it sits"
      as={SAID}
      options={[NOT_SAID, ["no", "outside, in the cold"], ["yes", "inside or heated"]]}
    />
    <ChoiceField
      name={`${at}.starter`}
      label="What it is for"
      as={STARTS}
      options={[
        ["house", "what one lives off"],
        ["engine", "it starts the engine"],
      ]}
    />
    <Layout at={at} store={store} />
  </>
);

const APART = {
  reserve: "Reserve apart",
  tote: "Tote or bucket that it runs over into",
  spare: "Spare, empty, beside it",
};

/** What is carried apart, and whether it is counted before anybody has to go. */
const Reserve = ({ at, store, contents }: { at: At; store: StoreDoc; contents: Shown }) => {
  const { getValues, setValue } = useFormContext<RigDoc>();
  // one that takes the place of the first is there to be used; a jug is often kept for when all else is gone
  const counts = () => {
    const [reserve, said] = [getValues(`${at}.reserve`), getValues(`${at}.reserve_counts`)];
    if (reserve && said === undefined && kindOf(store.kind).spareTakesItsPlace)
      setValue(`${at}.reserve_counts`, true, { shouldDirty: true });
  };
  return (
    <>
      <NumberField
        name={`${at}.reserve`}
        label={APART[kindOf(store.kind).apart ?? "reserve"]}
        shown={contents}
        onKeep={counts}
      />
      {store.reserve ? (
        <ChoiceField
          name={`${at}.reserve_counts`}
          label="It counts"
          as={COUNTS}
          options={[
            ["no", "no, it is for when all else is gone"],
            ["yes", "yes, it is used before we go"],
          ]}
        />
      ) : null}
    </>
  );
};

const BY_ITSELF: AsText = { text: COUNTS.text, value: COUNTS.value };
const BY_PUMP: AsText = { text: COUNTS.text, value: COUNTS.value };

/** What gas, fuel and what else is burnt say of themselves. */
const Burnt = ({ at, store, asks }: { at: At; store: StoreDoc; asks: (field: string) => boolean }) => {
  const { units } = useAboard();
  return (
    <>
      {asks("propane_share") && store.fuel === "mix" && <NumberField name={`${at}.propane_share`} shown={perCent()} />}
      {asks("changes_itself") && (
        <ChoiceField
          name={`${at}.changes_itself`}
          as={BY_ITSELF}
          options={[
            ["no", "is put in by hand"],
            ["yes", "takes over by itself"],
          ]}
        />
      )}
      {asks("tank_l") && (
        <NumberField name={`${at}.tank_l`} shown={shownIn("L", units)} note="of a fixed tank; it is filled to 80 %" />
      )}
      {asks("pick_up") && <NumberField name={`${at}.pick_up`} shown={perCent("% of the tank")} />}
      {asks("by_pump") && (
        <ChoiceField
          name={`${at}.by_pump`}
          as={BY_PUMP}
          options={[
            ["no", "its share of the tank, or the way where that is more"],
            ["yes", "the way to the next pump alone"],
          ]}
        />
      )}
      {asks("kwh_per_unit") && <NumberField name={`${at}.kwh_per_unit`} unit="kWh" note="if it is burnt" />}
    </>
  );
};

/** What only a store of such a kind says of itself, as the catalogue has it. */
const OfItsKind = ({ at, store, contents }: { at: At; store: StoreDoc; contents: Shown }) => {
  const kind = kindOf(store.kind);
  const { units } = useAboard();
  const asks = (field: string) => (kind.asks as readonly string[]).includes(field);
  return (
    <>
      {kind.isBank && <Battery at={at} store={store} />}
      {kind.contents.length > 0 && <ChoiceField name={`${at}.fuel`} options={choices(kind.contents)} />}
      {asks("tare_kg") && (
        <NumberField name={`${at}.tare_kg`} label="Empty bottle (tare)" shown={shownIn("kg", units)} />
      )}
      <Burnt at={at} store={store} asks={asks} />
      {kind.apart && <Reserve at={at} store={store} contents={contents} />}
      {kind.drains && (
        <TicksField
          name={`${at}.takes`}
          label="What drains into it"
          options={choices(CATALOGUE.outlets)}
          note="Nothing ticked: the sink and the shower."
        />
      )}
      {kind.freezes && (
        <ChoiceField
          name={`${at}.outside`}
          label="Inside or outside"
          as={SAID}
          options={[NOT_SAID, ["yes", "outside, in the frost"], ["no", "inside or heated"]]}
        />
      )}
      {store.reads_from ? (
        <NumberField name={`${at}.reads_from`} label="Its gauge shows when it is empty" shown={perCent("%")} />
      ) : null}
      {kind.served.length > 1 && (
        <ChoiceField
          name={`${at}.served`}
          label={kind.fills ? "It is emptied" : "It is filled"}
          as={SERVED}
          options={choices(CATALOGUE.served)}
        />
      )}
      {(["heats", "drives", "generates"] as const).filter(asks).map((name) => (
        <ChoiceField key={name} name={`${at}.${name}`} as={SAID} options={YES_NO} />
      ))}
      {kind.countsItself && (
        <>
          <TextField name={`${at}.unit`} />
          <ChoiceField name={`${at}.sense`} options={SENSES} />
        </>
      )}
    </>
  );
};

/** Everything about one store. */
export const StoreFields = ({ index, remove }: { index: number; remove: () => void }) => {
  const at: At = `stores.${index}`;
  const store = useWatch<RigDoc, At>({ name: at });
  const { units } = useAboard();
  const assumed = useAssumed();
  const contents = shownIn(baseUnit(store), units);
  const ofStore = `stores.${store.id}`;
  return (
    <Box pb="4">
      <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3" alignItems="start">
        <TextField name={`${at}.name`} />
        {!store.layout && (
          <NumberField name={`${at}.capacity`} shown={contents} note={assumed(`${ofStore}.capacity`)} />
        )}
        <NumberField
          name={`${at}.limit`}
          shown={perCent("% of capacity")}
          note={typeof store.limit === "number" ? undefined : "by kind, common practice"}
        />
        <Gauge at={at} store={store} contents={contents} note={assumed(`${ofStore}.gauge`)} />
        <OfItsKind at={at} store={store} contents={contents} />
      </Grid>
      <Box mt="2">
        <Plain size="sm" tone="warn" onClick={remove}>
          Remove {store.name}
        </Plain>
      </Box>
    </Box>
  );
};
