import { Box, Grid, HStack, Input } from "@chakra-ui/react";
import { useState } from "react";
import { useController, useFormContext } from "react-hook-form";

import type { Schemas } from "../api/client";
import { Select } from "../parts/Choose";
import { onKeys } from "../parts/keys";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { isUnread, typedNumber } from "./typed";

export type Place = Schemas["PlaceOut"];

const DIGITS = 4;
const [MOST_LAT, MOST_LON] = [90, 180];
const NO_PLACE = { name: "", lat: "", lon: "" };

const textOf = (place: Place | null) =>
  place ? { name: place.name, lat: String(place.lat), lon: String(place.lon) } : NO_PLACE;

/** Degrees as they were typed; what is wrong with them where they are none. */
const degrees = (text: string, most: number, name: string): number | string => {
  const typed = typedNumber(text);
  if (typed === null || isUnread(typed))
    return `Write the ${name} in degrees, such as ${most === MOST_LAT ? "54.32" : "-2.75"}.`;
  return Math.abs(typed) > most ? `A ${name} lies between -${most} and ${most}.` : typed;
};

const placeOf = ({ name, lat, lon }: typeof NO_PLACE): Place | string => {
  const [north, east] = [degrees(lat, MOST_LAT, "latitude"), degrees(lon, MOST_LON, "longitude")];
  if (typeof north === "string") return north;
  if (typeof east === "string") return east;
  return name.trim()
    ? { name: name.trim(), lat: north, lon: east }
    : "Give the place a name, so that you find it again.";
};

/** Asks the device where it is; only when somebody touches the button. */
const locate = (found: (lat: number, lon: number) => void, failed: (words: string) => void) => {
  if (!("geolocation" in navigator)) return failed("This device does not say where it is. Type the degrees.");
  navigator.geolocation.getCurrentPosition(
    ({ coords }) => found(coords.latitude, coords.longitude),
    () => failed("The device did not say where it is. Allow it, or type the degrees."),
    { timeout: 15_000, maximumAge: 600_000 },
  );
};

/** Where the rig stands: typed, from the device on request, or picked from earlier places. Kept by its own button. */
export const PlaceField = ({
  name,
  words,
  earlier = [],
  onKeep,
}: {
  name: string;
  /** Where it stands as far as is known. */
  words?: string;
  earlier?: readonly Place[];
  onKeep?: () => void;
}) => {
  const { control } = useFormContext();
  const { field, fieldState } = useController({ name, control });
  const [open, setOpen] = useState(false);
  const [text, setText] = useState(textOf(field.value as Place | null));
  const [problem, setProblem] = useState<string | null>(null);
  const keep = (place: Place) => {
    setText(textOf(place));
    setProblem(null);
    setOpen(false);
    field.onChange(place);
    onKeep?.();
  };
  const done = () => {
    const place = placeOf(text);
    if (typeof place === "string") setProblem(place);
    else keep(place);
  };
  const found = (lat: number, lon: number) => {
    setProblem(null);
    setText({ ...text, lat: lat.toFixed(DIGITS), lon: lon.toFixed(DIGITS) });
  };
  const input = (key: keyof typeof NO_PLACE, label: string) => (
    <Labelled label={label}>
      <Input
        bg="raised"
        borderColor="edge"
        autoComplete="off"
        inputMode={key === "name" ? "text" : "decimal"}
        value={text[key]}
        onChange={(event) => setText({ ...text, [key]: event.target.value })}
        onKeyDown={onKeys({ Enter: done })}
      />
    </Labelled>
  );
  const place = field.value as Place | null;
  return (
    <Box role="group" aria-label="Place">
      <Box color={place ? undefined : "soft"} mb="1">
        {place ? `Place: ${place.name}` : (words ?? "No place yet.")}
      </Box>
      <HStack wrap="wrap">
        <Plain aria-expanded={open} onClick={() => setOpen(!open)}>
          {place ? "Another place" : "Say where you are"}
        </Plain>
        {earlier.length > 0 && (
          <Select
            aria-label="Pick an earlier place"
            width="13rem"
            value=""
            options={[["", "An earlier place"], ...earlier.map((each): [string, string] => [each.name, each.name])]}
            onChange={(event) => {
              const picked = earlier.find((each) => each.name === event.target.value);
              if (picked) keep(picked);
            }}
          />
        )}
      </HStack>
      {open && (
        <Box bg="sunken" p="3" borderRadius="md" mt="2">
          <Grid templateColumns={{ base: "1fr 1fr", md: "2fr 1fr 1fr" }} gap="3">
            {input("name", "Name of the place")}
            {input("lat", "Latitude, degrees north")}
            {input("lon", "Longitude, degrees east")}
          </Grid>
          <HStack mt="2" wrap="wrap">
            <Plain tone="strong" onClick={done}>
              Keep the place
            </Plain>
            <Plain onClick={() => locate(found, setProblem)}>Where this device is</Plain>
          </HStack>
        </Box>
      )}
      <Problem error={problem ?? fieldState.error?.message} />
    </Box>
  );
};
