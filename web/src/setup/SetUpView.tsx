import { Box, Grid, Heading, Input } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, type ReactNode, useState } from "react";
import { useNavigate } from "react-router";

import { client, type Schemas, take } from "../api/client";
import { keepRig } from "../app/rig";
import { ImportPanel } from "../logbook/ImportPanel";
import { Choice, Labelled, NumberEntry, TextEntry } from "../parts/Entry";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";

type Answers = Schemas["Answers"];

const START: Answers = {
  name: "",
  timezone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  units: "metric",
  adults: 2,
  children: 0,
  pets: 0,
  chemistry: "lfp",
  battery_ah: 200,
  battery_v: 12,
  solar_watts: 400,
  fresh: 100,
  grey: 80,
  toilet: "cassette",
  gas: 9,
  fuel: 80,
  heater: "diesel",
};

const Question = ({ number, title, children }: { number: number; title: string; children: ReactNode }) => (
  <Box as="fieldset" borderTopWidth="1px" borderColor="rule" pt="3">
    <Box as="legend" fontWeight="600" float="left" width="100%" mb="2">
      {number}. {title}
    </Box>
    <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(3, 1fr)" }} gap="3" clear="both">
      {children}
    </Grid>
  </Box>
);

/** Ten questions; the rest is filled in by common practice and marked as assumed until changed. */
export const SetUpView = () => {
  const [answers, setAnswers] = useState(START);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const set = (change: Partial<Answers>) => setAnswers({ ...answers, ...change });
  const enter = async (rig: number) => {
    keepRig(rig);
    await queries.invalidateQueries({ queryKey: ["me"] });
    await navigate("/round");
  };
  const make = useMutation({
    mutationFn: () => take(client.POST("/api/rigs/set-up", { body: answers })),
    onSuccess: (made) => enter(made.id),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  const litres = answers.units === "us" ? "gal" : "L";
  const kilos = answers.units === "us" ? "lb" : "kg";
  const number = (key: keyof Answers) => (value: number | null) => set({ [key]: value ?? 0 });
  return (
    <Box maxW="46rem" mx="auto">
      <Heading as="h1" fontFamily="heading" fontSize={{ base: "2xl", md: "3xl" }}>
        What is aboard
      </Heading>
      <Box color="soft" mb="6">
        Ten questions. The rest is filled in by common practice and marked as assumed until you change it. Write 0 for
        what you do not carry.
      </Box>
      <form onSubmit={submit}>
        <Box display="grid" gap="6">
          <Question number={1} title="What is the rig called?">
            <Labelled label="Name">
              <Input
                bg="raised"
                borderColor="edge"
                required
                maxLength={120}
                value={answers.name}
                onChange={(event) => set({ name: event.target.value })}
              />
            </Labelled>
            <TextEntry label="Timezone" value={answers.timezone} onValue={(timezone) => set({ timezone })} />
          </Question>
          <Question number={2} title="Which units do you think in?">
            <Choice
              label="Units"
              value={answers.units}
              onValue={(units) => set({ units: units as Answers["units"] })}
              options={[
                ["metric", "litres, kg, km, °C"],
                ["us", "gallons, lb, miles, °F"],
                ["uk", "litres, kg, miles, °C"],
              ]}
            />
          </Question>
          <Question number={3} title="Who lives aboard?">
            <NumberEntry label="Adults" value={answers.adults} onValue={number("adults")} />
            <NumberEntry label="Children" value={answers.children} onValue={number("children")} />
            <NumberEntry label="Animals" value={answers.pets} onValue={number("pets")} />
          </Question>
          <Question number={4} title="What battery bank?">
            <Choice
              label="Chemistry"
              value={answers.chemistry}
              onValue={(chemistry) => set({ chemistry: chemistry as Answers["chemistry"] })}
              options={[
                ["lfp", "lithium iron phosphate"],
                ["agm", "AGM"],
                ["gel", "gel"],
                ["flooded", "flooded lead"],
                ["lead-carbon", "lead-carbon"],
              ]}
            />
            <NumberEntry
              label="Capacity of the whole bank"
              unit="Ah"
              value={answers.battery_ah}
              onValue={number("battery_ah")}
              note="Units in series add volts, not amp-hours."
            />
            <Choice
              label="Bank volts"
              value={String(answers.battery_v)}
              onValue={(volts) => set({ battery_v: Number(volts) as 12 | 24 | 48 })}
              options={[
                ["12", "12 V"],
                ["24", "24 V"],
                ["48", "48 V"],
              ]}
            />
          </Question>
          <Question number={5} title="How much solar?">
            <NumberEntry
              label="All panels together"
              unit="W"
              value={answers.solar_watts}
              onValue={number("solar_watts")}
            />
          </Question>
          <Question number={6} title="How much fresh water?">
            <NumberEntry label="Fresh tanks" unit={litres} value={answers.fresh} onValue={number("fresh")} />
          </Question>
          <Question number={7} title="How much grey water?">
            <NumberEntry label="Grey tank" unit={litres} value={answers.grey} onValue={number("grey")} />
          </Question>
          <Question number={8} title="What toilet?">
            <Choice
              label="Toilet"
              value={answers.toilet}
              onValue={(toilet) => set({ toilet: toilet as Answers["toilet"] })}
              options={[
                ["cassette", "cassette"],
                ["black", "black tank"],
                ["composting", "composting, with urine bottle"],
                ["none", "none"],
              ]}
            />
          </Question>
          <Question number={9} title="How much gas?">
            <NumberEntry label="Bottle in use, full" unit={kilos} value={answers.gas} onValue={number("gas")} />
          </Question>
          <Question number={10} title="Fuel and heat?">
            <NumberEntry label="Vehicle tank" unit={litres} value={answers.fuel} onValue={number("fuel")} />
            <Choice
              label="Heater burns"
              value={answers.heater ?? "none"}
              onValue={(heater) => set({ heater: heater as Answers["heater"] })}
              options={[
                ["diesel", "vehicle fuel"],
                ["gas", "gas"],
                ["none", "nothing"],
              ]}
            />
          </Question>
          <Plain type="submit" tone="strong" minH="12" disabled={make.isPending}>
            Make the rig
          </Plain>
          <Problem error={make.error} />
        </Box>
      </form>
      <Box mt="10">
        <Heading as="h2" size="lg" fontFamily="heading" mb="2">
          Or bring a logbook file
        </Heading>
        <ImportPanel rig={null} done={(rig) => void enter(rig)} />
      </Box>
    </Box>
  );
};
