import { Box, Dialog, Flex, Grid, HStack } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useFormContext, useWatch } from "react-hook-form";

import { get, useTell } from "../api/asked";
import type { Schemas } from "../api/client";
import { CheckField, ChoiceField, NoteField, NumberField, type Shown, TextField } from "../forms/fields";
import { FIELDS } from "../forms/fields.generated";
import { DraftForm, useDraft } from "../forms/form";
import { type Place, PlaceSearch } from "../forms/PlaceField";
import { schemaOf } from "../forms/schema";
import { type System, shownIn } from "../notation/shown";
import { Problem, Waiting } from "../parts/Notice";
import { Over } from "../parts/Over";
import { Fold } from "../parts/Fold";
import { Plain } from "../parts/Plain";
import { type Day, DAY_NAMES, type Draft, draftOf, priceOf, type ServiceId, spotOf } from "./spot";

// an id is made of a name, and the notation of hours counts where hours are said by it
const OF = FIELDS.spot.of;
const spotBy = (opening_hours: Parameters<typeof schemaOf>[0]) =>
  schemaOf({ ...FIELDS.spot, of: { ...OF, id: { ...OF.id, free: true }, opening_hours } });
const NOTED = spotBy({ ...OF.opening_hours, none: false });
const SPOT = spotBy({ is: "text", most: OF.opening_hours.most });
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const HOURS = [
  ["always", "always, or not known"],
  ["plain", "by day of the week"],
  ["notation", "by the opening-hours notation"],
] as const;
const YES_NO = [
  ["", "not known"],
  ["yes", "yes"],
  ["no", "no"],
] as const;
const TRUTH = {
  text: (value: unknown) => (value === true ? "yes" : value === false ? "no" : ""),
  value: (text: string) => (text === "" ? null : text === "yes"),
};
const FIRST = {
  text: (value: unknown) => (Array.isArray(value) ? ((value[0] as string | undefined) ?? "") : ""),
  value: (text: string) => (text === "" ? [] : [text]),
};

const inUnit = (base: string, system: System): Shown => {
  const how = shownIn(base, system);
  return {
    unit: how.unit,
    show: (value) => value * how.factor + how.offset,
    keep: (value) => (value - how.offset) / how.factor,
  };
};

/** Services of which more is known than a price. */
const DETAILED = new Set(["water", "hookup", "gas", "fuel"]);

/** The figures of one service; what is left empty is not known. */
const Figures = ({ id, system }: { id: ServiceId; system: System }) => {
  const at = `services.${String(id)}`;
  const litres = inUnit("L", system);
  switch (id) {
    case "water":
      return (
        <>
          <NumberField name={`${at}.l_per_min`} label="Flow a minute" shown={litres} />
          <ChoiceField name={`${at}.drinkable`} label="To drink" options={YES_NO} as={TRUTH} />
          <ChoiceField name={`${at}.hose`} label="A hose reaches" options={YES_NO} as={TRUTH} />
          <NumberField name={`${at}.price`} label="Price" />
        </>
      );
    case "hookup":
      return (
        <>
          <NumberField name={`${at}.amps`} label="Post" unit="A" />
          <NumberField name={`${at}.volts`} label="Post" unit="V" />
          <NumberField name={`${at}.price_night`} label="Price a night" />
        </>
      );
    case "gas":
      return (
        <>
          <ChoiceField
            name={`${at}.fuels`}
            label="Gas"
            as={FIRST}
            options={[
              ["", "not known"],
              ["propane", "propane"],
              ["butane", "butane"],
            ]}
          />
          <ChoiceField
            name={`${at}.how`}
            label="Bottles are"
            options={[
              ["", "not known"],
              ["swap", "swapped"],
              ["refill", "filled"],
            ]}
          />
          <NumberField name={`${at}.price_per_kg`} label="Price" shown={priceOf(shownIn("kg", system))} />
        </>
      );
    case "fuel":
      return (
        <>
          <ChoiceField
            name={`${at}.fuels`}
            label="Fuel"
            as={FIRST}
            options={[
              ["", "any"],
              ["diesel", "diesel"],
              ["petrol", "petrol"],
            ]}
          />
          <NumberField name={`${at}.price_per_l`} label="Price" shown={priceOf(shownIn("L", system))} />
        </>
      );
    default:
      return null;
  }
};

const Offers = ({ services, system }: { services: Schemas["ServiceNameOut"][]; system: System }) => {
  const { setValue, control } = useFormContext<Draft>();
  const offered = useWatch({ control, name: "offered" });
  const touch = (id: ServiceId) =>
    setValue("offered", offered.includes(id) ? offered.filter((each) => each !== id) : [...offered, id], {
      shouldDirty: true,
    });
  return (
    <Box mt="4">
      <Box fontWeight="600" mb="1">
        What is offered
      </Box>
      <Flex gap="1.5" wrap="wrap" role="group" aria-label="What is offered">
        {services.map((each) => (
          <Plain
            key={each.id}
            size="sm"
            aria-pressed={offered.includes(each.id as ServiceId)}
            onClick={() => touch(each.id as ServiceId)}
          >
            {each.name}
          </Plain>
        ))}
      </Flex>
      <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(4, 1fr)" }} gap="2" mt="2">
        {services
          .filter((each) => offered.includes(each.id as ServiceId) && !DETAILED.has(each.id))
          .map((each) => (
            <NumberField key={each.id} name={`services.${each.id}.price`} label={`Price, ${each.name}`} />
          ))}
      </Grid>
      {services
        .filter((each) => offered.includes(each.id as ServiceId) && DETAILED.has(each.id))
        .map((each) => (
          <Box key={each.id} mt="2">
            <Box fontSize="sm" fontWeight="600">
              {each.name}
            </Box>
            <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(4, 1fr)" }} gap="2">
              <Figures id={each.id as ServiceId} system={system} />
            </Grid>
          </Box>
        ))}
    </Box>
  );
};

const WeekHours = () => {
  const { control } = useFormContext<Draft>();
  const plain = useWatch({ control, name: "plain" });
  return (
    <Box mt="2">
      {(Object.keys(DAY_NAMES) as Day[]).map((day) => (
        <HStack key={day} py="0.5">
          <Box width="8.5rem">
            <CheckField name={`plain.${day}.open`} label={DAY_NAMES[day]} kept={(ticked) => ticked} />
          </Box>
          {plain[day].open && (
            <>
              <TextField name={`plain.${day}.opens`} label={`${DAY_NAMES[day]}, opens`} type="time" size="sm" />
              <TextField name={`plain.${day}.closes`} label={`${DAY_NAMES[day]}, closes`} type="time" size="sm" />
            </>
          )}
        </HStack>
      ))}
    </Box>
  );
};

const Opening = () => {
  const { control, setValue } = useFormContext<Draft>();
  const [hours, closed] = useWatch({ control, name: ["hours", "closed_months"] });
  return (
    <Box mt="4">
      <ChoiceField name="hours" label="Open" options={HOURS} />
      {hours === "plain" && <WeekHours />}
      {hours === "notation" && (
        <TextField
          name="opening_hours"
          label="Opening hours"
          note="As OpenStreetMap writes them, such as Mo-Sa 08:00-18:00; Su off"
        />
      )}
      <Box fontSize="sm" color="soft" mt="2" mb="1">
        Closed in
      </Box>
      <Flex gap="1" wrap="wrap" role="group" aria-label="Closed in">
        {MONTHS.map((name, index) => (
          <Plain
            key={name}
            size="sm"
            aria-pressed={closed.includes(index + 1)}
            onClick={() =>
              setValue(
                "closed_months",
                closed.includes(index + 1) ? closed.filter((each) => each !== index + 1) : [...closed, index + 1],
                { shouldDirty: true },
              )
            }
          >
            {name}
          </Plain>
        ))}
      </Flex>
    </Box>
  );
};

/** Degrees that were pressed on the sketch. */
const pressedOf = (at?: string | null): Place | null => {
  const [lat, lon] = (at ?? "").split(",").map(Number);
  return at && lat !== undefined && lon !== undefined ? { name: "", lat, lon } : null;
};

const Editing = ({
  rig,
  place,
  form: stands,
  book,
  at,
  close,
}: {
  rig: number;
  place: string | null;
  form: Schemas["SpotForm"] | null;
  book: Schemas["BookOut"];
  at?: string | null;
  close: () => void;
}) => {
  const add = useTell(rig, "post", "/places");
  const change = useTell(rig, "put", "/places/{place_id}", (body: Schemas["SpotIn"]) => ({
    path: { place_id: place ?? "" },
    body,
  }));
  const remove = useTell(rig, "delete", "/places/{place_id}", (place_id: string) => ({ path: { place_id } }));
  const system = book.units as System;
  const metres = inUnit("m", system);
  const draft = useDraft<Draft>({
    schema: (typed: Draft) => (typed.hours === "notation" ? NOTED : SPOT),
    values: draftOf(stands, place === null ? (pressedOf(at) ?? book.here) : null),
    send: async (typed) => {
      const spot = spotOf(typed, place, stands?.spot.notes ?? null);
      await (place === null ? add.mutateAsync(spot) : change.mutateAsync(spot));
      close();
    },
  });
  const found = ({ name, lat, lon }: Place) => {
    const { form } = draft;
    if (form.getValues("name").trim() === "") form.setValue("name", name, { shouldDirty: true });
    form.setValue("lat", lat, { shouldDirty: true });
    form.setValue("lon", lon, { shouldDirty: true });
  };
  return (
    <>
      <Dialog.Body>
        <DraftForm of={draft} id="spot">
          <Grid templateColumns={{ base: "1fr 1fr", md: "2fr 1fr 1fr" }} gap="3">
            <Box gridColumn={{ base: "1 / -1", md: "auto" }}>
              <TextField name="name" label="Name" autoFocus />
            </Box>
            <NumberField name="lat" label="Latitude" />
            <NumberField name="lon" label="Longitude" />
          </Grid>
          <Fold title="Find it by a town or by degrees">
            <PlaceSearch keep={found} />
          </Fold>
          <Offers services={book.services} system={system} />
          <Opening />
          <Grid templateColumns={{ base: "1fr 1fr", md: "repeat(4, 1fr)" }} gap="3" mt="4">
            <NumberField name="fee" label="Fee to enter" />
            <NumberField name="max_nights" label="Most nights" />
            <NumberField name="max_length_m" label="Longest rig" shown={metres} />
            <NumberField name="max_height_m" label="Highest rig" shown={metres} />
          </Grid>
          <Box mt="4">
            <NoteField name="note" label="Note" />
          </Box>
          {[...(stands?.notes ?? []), ...(stands?.visits ?? [])].map((line) => (
            <Box key={line} fontSize="sm" color="soft">
              {line}
            </Box>
          ))}
        </DraftForm>
        <Problem error={remove.error} />
      </Dialog.Body>
      <Dialog.Footer flexWrap="wrap">
        {place !== null && (
          <Plain
            tone="warn"
            mr="auto"
            disabled={remove.isPending}
            onClick={() => remove.mutate(place, { onSuccess: close })}
          >
            Take out of the book
          </Plain>
        )}
        <Plain onClick={close}>Cancel</Plain>
        <Plain type="submit" form="spot" tone="strong" disabled={draft.form.formState.isSubmitting}>
          Keep
        </Plain>
      </Dialog.Footer>
    </>
  );
};

/** A place of the book: put in or changed. */
export const SpotEditor = ({
  rig,
  place,
  book,
  at,
  close,
}: {
  rig: number;
  place: string | null;
  book: Schemas["BookOut"];
  /** Where the sketch was pressed: degrees north and east. */
  at?: string | null;
  close: () => void;
}) => {
  const form = useQuery({
    ...get(rig, "/places/{place_id}", { path: { place_id: place ?? "" } }),
    enabled: place !== null,
  });
  return (
    <Over
      open
      close={close}
      title={place === null ? "A new place" : (form.data?.spot.name ?? "")}
      foot={null}
      size="lg"
    >
      {place !== null && !form.data ? (
        <Dialog.Body>
          <Waiting what="the place" why={form.failureReason} />
        </Dialog.Body>
      ) : (
        <Editing rig={rig} place={place} form={form.data ?? null} book={book} at={at} close={close} />
      )}
    </Over>
  );
};
