import { Box, Grid, Heading, HStack } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { createContext, type FormEvent, type ReactNode, use, useRef, useState } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { useNavigate } from "react-router";

import { CATALOGUE, choices } from "../api/catalogue";
import type { Schemas } from "../api/client";
import { keys } from "../api/keys";
import { useSetUp } from "../api/mutations";
import { keepRig } from "../api/rig";
import { type AsText, ChoiceField, NumberField, TextField } from "../forms/fields";
import { DraftForm, useDraft } from "../forms/form";
import { PlaceField } from "../forms/PlaceField";
import { needed, text, z } from "../forms/schema";
import { SystemContext } from "../forms/system";
import type { Typed } from "../forms/typed";
import { ZoneField } from "../forms/ZoneField";
import { ImportPanel } from "../logbook/ImportPanel";
import { shownIn } from "../notation/shown";
import { Plain } from "../parts/Plain";
import { useTitle } from "../parts/title";

type Answers = Schemas["Answers"];

const START: Answers = {
  name: "",
  timezone: "",
  units: "metric",
  adults: 2,
  children: 0,
  pets: 0,
  chemistry: "lfp",
  battery_ah: 200,
  battery_v: 12,
  solar_watts: 400,
  toilet: "cassette",
  heater: "diesel",
  gas_burns: ["cooker"],
  spare_cassette: false,
  spare_urine: false,
  spare_solids: false,
  spare_bottle: false,
  heater_kw: 0,
  fridge: "bank",
  fuel_kind: "diesel",
  body: "van",
  kept_warm: null,
  starter_ah: 0,
  place: null,
  ...CATALOGUE.usual.metric,
};

const TANKS = ["fresh", "grey", "gas", "fuel", "cassette", "black", "urine"] as const;
/** Of these the usual size is assumed, and said to be, until somebody changes it. */
const PARTS = ["cassette", "black", "urine", "solids"] as const;

const amount = needed({ least: 0 });
const SCHEMA = z.looseObject({
  name: text(),
  timezone: text(64),
  adults: needed({ least: 1, most: 20, whole: true }),
  children: needed({ least: 0, most: 20, whole: true }),
  pets: needed({ least: 0, most: 20, whole: true }),
  battery_ah: amount,
  starter_ah: amount,
  solar_watts: amount,
  fresh: amount,
  grey: amount,
  gas: amount,
  fuel: amount,
  cassette: amount,
  black: amount,
  urine: amount,
  solids: amount,
  heater_kw: needed({ least: 0, most: 30 }),
}) as unknown as z.ZodMiniType<Answers, Answers>;

const LAST = 10;

const VOLTS: AsText = { text: (value) => String(value), value: Number };

/** The timezone of this device; the rig is where its people are. */
const here = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

const StepContext = createContext(0);

/** A question of the set-up; the others are out of sight until one comes to them. */
const Question = ({ number, title, children }: { number: number; title: string; children: ReactNode }) => (
  <Box as="fieldset" hidden={use(StepContext) !== number} data-question={number} pt="3">
    <Box as="legend" fontWeight="600" float="left" width="100%" mb="2">
      {number}. {title}
    </Box>
    <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3" clear="both" alignItems="start">
      {children}
    </Grid>
  </Box>
);

const UNIT_OF = { fresh: "L", grey: "L", gas: "kg", fuel: "L", cassette: "L", black: "L", urine: "L" } as const;
const TENTHS = 10;

/** The units; a usual amount that nobody has changed is the usual one in them, and what was typed is converted. */
const Units = () => {
  const { setValue, getValues } = useFormContext<Answers>();
  const before = useRef(getValues("units"));
  // what was typed before it was converted, so that there and back is the same
  const typedBase = useRef(new Map<string, { shown: number; base: number }>());
  const change = (next: string) => {
    const [from, to] = [before.current, next as Answers["units"]];
    before.current = to;
    for (const tank of TANKS) {
      const typed: Typed = getValues(tank);
      if (typeof typed !== "number") continue;
      const [old, fresh] = [shownIn(UNIT_OF[tank], from), shownIn(UNIT_OF[tank], to)];
      const isUsual = CATALOGUE.usual[from][tank] === typed;
      const known = typedBase.current.get(tank);
      const base = known?.shown === typed ? known.base : typed / old.factor;
      const converted = Math.round(base * fresh.factor * TENTHS) / TENTHS;
      typedBase.current.set(tank, { shown: converted, base });
      setValue(tank, isUsual ? CATALOGUE.usual[to][tank] : converted);
    }
  };
  return <ChoiceField name="units" options={choices(CATALOGUE.systems)} onChoose={change} />;
};

const WARM: AsText = {
  text: (value) => (value === true ? "yes" : value === false ? "no" : ""),
  value: (text) => (text === "" ? null : text === "yes"),
};
const BURNERS = choices(CATALOGUE.applianceKinds.filter((each) => each.id !== "fridge" && !each.solid)).filter(
  ([kind]) => !kind.includes("heater") || kind === "water-heater",
);

/** What burns from the bottle, one touch each. */
const Burns = () => {
  const { setValue } = useFormContext<Answers>();
  const burns = useWatch<Answers, "gas_burns">({ name: "gas_burns" });
  const touch = (kind: Answers["gas_burns"][number]) =>
    setValue("gas_burns", burns.includes(kind) ? burns.filter((each) => each !== kind) : [...burns, kind], {
      shouldDirty: true,
    });
  return (
    <Box gridColumn="1 / -1" role="group" aria-label="What burns gas">
      <Box fontSize="sm" color="soft" mb="1">
        What burns from it (a heater is asked below)
      </Box>
      <HStack wrap="wrap">
        {BURNERS.map(([kind, words]) => (
          <Plain
            key={kind}
            aria-pressed={burns.includes(kind as Answers["gas_burns"][number])}
            onClick={() => touch(kind as Answers["gas_burns"][number])}
          >
            {words}
          </Plain>
        ))}
      </HStack>
    </Box>
  );
};

const YES: AsText = { text: (value) => (value ? "yes" : "no"), value: (text) => text === "yes" };
const NO_OR_YES = [
  ["no", "no"],
  ["yes", "yes, it is used before we go"],
] as const;

/** The parts of a toilet, of those who have them: how large, and whether there is a second one. */
const ToiletParts = ({ litres }: { litres: string }) => {
  const toilet = useWatch<Answers, "toilet">({ name: "toilet" });
  const spare = (name: string, label: string) => <ChoiceField name={name} label={label} as={YES} options={NO_OR_YES} />;
  switch (toilet) {
    case "cassette":
      return (
        <>
          <NumberField name="cassette" label="Cassette" unit={litres} />
          {spare("spare_cassette", "A second cassette")}
        </>
      );
    case "black":
      return <NumberField name="black" label="Black tank" unit={litres} />;
    case "composting":
      return (
        <>
          <NumberField name="urine" label="Urine bottle" unit={litres} />
          {spare("spare_urine", "A second urine bottle")}
          <NumberField name="solids" label="Solids bin" unit="uses" />
          {spare("spare_solids", "A second bin")}
        </>
      );
    default:
      return null;
  }
};

const FRIDGES = [
  ["bank", "the bank"],
  ["gas", "gas"],
  ["changes", "gas, bank while driving, mains when plugged in"],
  ["none", "there is none"],
] as const;

/** What heats, how strongly, and how the rig is built; only what is aboard is asked about. */
const Heating = () => {
  const heater = useWatch<Answers, "heater">({ name: "heater" });
  return (
    <>
      <ChoiceField name="heater" options={choices(CATALOGUE.heaters)} />
      {heater !== "none" && <NumberField name="heater_kw" label="Heater at full" unit="kW" note="0: as usual" />}
    </>
  );
};

const Questions = ({ litres, kilos }: { litres: string; kilos: string }) => {
  const { setValue } = useFormContext<Answers>();
  const body = useWatch<Answers, "body">({ name: "body" });
  return (
    <>
      <Question number={1} title="What is the rig called?">
        <TextField name="name" />
        <ChoiceField name="body" label="It is" options={choices(CATALOGUE.bodies)} />
        <ZoneField name="timezone" />
        <Box gridColumn="1 / -1">
          <PlaceField
            name="place"
            words="Where does it stand? Without a place the city of the timezone stands in, and ranges are wider."
            onZone={(zone) => setValue("timezone", zone, { shouldDirty: true })}
          />
        </Box>
      </Question>
      <Question number={2} title="Which units do you think in?">
        <Units />
      </Question>
      <Question number={3} title="Who lives aboard?">
        <NumberField name="adults" />
        <NumberField name="children" />
        <NumberField name="pets" />
      </Question>
      <Question number={4} title="What battery bank?">
        <ChoiceField name="chemistry" options={choices(CATALOGUE.chemistries)} />
        <NumberField name="battery_ah" unit="Ah" note="Units in series add volts, not amp-hours." />
        <ChoiceField
          name="battery_v"
          as={VOLTS}
          options={[
            ["12", "12 V"],
            ["24", "24 V"],
            ["48", "48 V"],
          ]}
        />
        <ChoiceField
          name="kept_warm"
          label="Where it sits"
          as={WARM}
          options={[
            ["", "not sure"],
            ["yes", "inside or heated"],
            ["no", "outside, in the cold"],
          ]}
        />
        <NumberField name="starter_ah" unit="Ah" note="0: it is not watched." />
      </Question>
      <Question number={5} title="How much solar?">
        <NumberField name="solar_watts" unit="W" />
      </Question>
      <Question number={6} title="How much fresh water?">
        <NumberField name="fresh" unit={litres} />
      </Question>
      <Question number={7} title="How much grey water?">
        <NumberField name="grey" unit={litres} />
      </Question>
      <Question number={8} title="What toilet?">
        <ChoiceField name="toilet" options={choices(CATALOGUE.toilets)} />
        <ToiletParts litres={litres} />
      </Question>
      <Question number={9} title="How much gas?">
        <NumberField name="gas" unit={kilos} />
        <ChoiceField name="spare_bottle" label="A second bottle" as={YES} options={NO_OR_YES} />
        <ChoiceField name="fridge" label="The fridge runs on" options={FRIDGES} />
        <Burns />
      </Question>
      <Question number={10} title="Fuel and heat?">
        <NumberField
          name="fuel"
          label={body === "trailer" ? "Tank of the car that tows" : "Vehicle tank"}
          unit={litres}
          note={body === "trailer" ? "0: it is not watched" : undefined}
        />
        <ChoiceField
          name="fuel_kind"
          label="It drives on"
          options={[
            ["diesel", "diesel"],
            ["petrol", "petrol"],
          ]}
        />
        <Heating />
      </Question>
    </>
  );
};

/** Ten questions; the rest is filled in by common practice and marked as assumed until changed. */
export const SetUpView = () => {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const make = useSetUp();
  useTitle("Set up");
  const enter = async (rig: number) => {
    keepRig(rig);
    await queries.invalidateQueries({ queryKey: keys.me });
    await navigate("/round");
  };
  const draft = useDraft<Answers>({
    schema: SCHEMA,
    values: { ...START, timezone: here() },
    send: async (answers) => {
      const usual = CATALOGUE.usual[answers.units];
      const assumed = PARTS.filter((part) => answers[part] === usual[part]).map((part) => [part, 0]);
      await enter((await make.mutateAsync({ ...answers, ...Object.fromEntries(assumed) })).id);
    },
  });
  const { form } = draft;
  const [at, setAt] = useState(1);
  const shown = CATALOGUE.shown[form.watch("units")];
  // what is wrong on a screen stands in the way of the next one
  const next = async () => {
    const fields = [...document.querySelectorAll<HTMLInputElement>(`[data-question="${at}"] [name]`)];
    if (await form.trigger(fields.map((field) => field.name) as (keyof Answers)[])) setAt(at + 1);
  };
  const submit = async (event?: FormEvent) => {
    await draft.submit(event);
    const fields = [...document.querySelectorAll<HTMLInputElement>("[data-question] [name]")];
    const wrong = fields.find((field) => form.getFieldState(field.name as keyof Answers).invalid);
    const question = wrong?.closest<HTMLElement>("[data-question]")?.dataset.question;
    if (question) setAt(Number(question));
  };
  return (
    <Box maxW="46rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
        What is aboard
      </Heading>
      <Box color="soft" mb="6">
        Ten questions, one at a time. What you skip is filled in by common practice and marked as assumed until you
        change it. Write 0 for what you do not carry.
      </Box>
      <SystemContext value={form.watch("units")}>
        <StepContext value={at}>
          <DraftForm of={{ form, submit }}>
            <Box color="soft" aria-live="polite">
              Question {at} of {LAST}
            </Box>
            <Questions litres={shown.L} kilos={shown.kg} />
            <HStack mt="6" wrap="wrap">
              {at > 1 && <Plain onClick={() => setAt(at - 1)}>Back</Plain>}
              {at < LAST && (
                <Plain tone="strong" onClick={() => void next()}>
                  Next
                </Plain>
              )}
              <Plain type="submit" tone={at === LAST ? "strong" : "plain"} disabled={form.formState.isSubmitting}>
                {at === LAST ? "Make the rig" : "Skip the rest, make the rig"}
              </Plain>
            </HStack>
          </DraftForm>
        </StepContext>
      </SystemContext>
      <Box mt="10">
        <Heading as="h2" size="lg" fontFamily="heading" mb="2">
          Or import a logbook file
        </Heading>
        <ImportPanel rig={null} done={(rig) => void enter(rig)} />
      </Box>
    </Box>
  );
};
