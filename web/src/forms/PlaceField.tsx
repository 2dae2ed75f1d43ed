import { Box, HStack, Input } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useController, useFormContext } from "react-hook-form";

import type { Schemas } from "../api/client";
import { placesQuery } from "../api/queries";
import { Select } from "../parts/Choose";
import { onKeys } from "../parts/keys";
import { Labelled } from "../parts/Labelled";
import { Problem } from "../parts/Notice";
import { Plain } from "../parts/Plain";
import { useSettled } from "../parts/settled";

export type Place = Schemas["PlaceOut"];
type Found = Schemas["FoundOut"];

const DIGITS = 4;
const [MOST_LAT, MOST_LON] = [90, 180];
const PAIR = /^\s*([-+−]?\d{1,2}(?:\.\d+)?)\s*[,;\s]\s*([-+−]?\d{1,3}(?:\.\d+)?)\s*$/;
const TYPE_MS = 250;

/** Degrees as they are mostly written, for when there is no signal; every other notation takes the server. */
const pairOf = (text: string): Found | null => {
  const [lat, lon] = (PAIR.exec(text)?.slice(1) ?? []).map((each) => Number(each.replace("−", "-")));
  if (lat === undefined || lon === undefined || Math.abs(lat) > MOST_LAT || Math.abs(lon) > MOST_LON) return null;
  return { name: "", country: "", lat, lon, timezone: null };
};

/** Asks the device where it is; only when somebody touches the button. */
const locate = (found: (text: string) => void, failed: (words: string) => void) => {
  const sorry = "The device did not say where it is. Allow it, or type a town or the degrees.";
  if (!("geolocation" in navigator)) return failed(sorry);
  navigator.geolocation.getCurrentPosition(
    ({ coords }) => found(`${coords.latitude.toFixed(DIGITS)}, ${coords.longitude.toFixed(DIGITS)}`),
    () => failed(sorry),
    { timeout: 15_000, maximumAge: 600_000 },
  );
};

const wordsOf = ({ name, country, lat, lon }: Found): string =>
  [name, country, `${lat.toFixed(2)}, ${lon.toFixed(2)}`].filter(Boolean).join(", ");

/** A place by a town's name or by degrees in any notation: searched as one types, and kept under a name of one's own. */
export const PlaceSearch = ({ keep }: { keep: (place: Place, timezone: string | null) => void }) => {
  const [text, setText] = useState("");
  const [picked, setPicked] = useState<Found | null>(null);
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const settled = useSettled(text, TYPE_MS);
  const answer = useQuery(placesQuery(settled));
  const pair = pairOf(text);
  const found = settled === text && answer.data ? answer.data.found : pair ? [pair] : [];
  const pick = (place: Found) => {
    setPicked(place);
    setName(place.name);
    setProblem(null);
  };
  const done = () => {
    if (!picked) return setProblem("Choose one of the places, or paste its degrees, such as 38.52, -8.89.");
    if (name.trim() === "") return setProblem("Give the place a name, so that you find it again.");
    keep({ name: name.trim(), lat: picked.lat, lon: picked.lon }, picked.timezone);
  };
  return (
    <Box bg="sunken" p="3" borderRadius="md" mt="2">
      <Labelled label="A town, or degrees">
        <Input
          bg="raised"
          borderColor="edge"
          autoComplete="off"
          placeholder="Setúbal, or 38.52, -8.89"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setPicked(null);
            setProblem(null);
          }}
          onKeyDown={onKeys({ Enter: () => (found[0] ? pick(found[0]) : done()) })}
        />
      </Labelled>
      {!picked && (
        <Box as="ul" listStyleType="none" aria-label="Places that are meant" aria-live="polite">
          {found.map((each) => (
            <Box as="li" key={`${each.lat} ${each.lon}`} mt="1">
              <Plain width="100%" justifyContent="flex-start" onClick={() => pick(each)}>
                {wordsOf(each)}
              </Plain>
            </Box>
          ))}
          {answer.data && found.length === 0 && settled === text && (
            <Box as="li" color="soft" mt="1">
              No town of that name. Paste the degrees from a map, or use this device.
            </Box>
          )}
        </Box>
      )}
      {picked && (
        <Box mt="2">
          <Box color="soft">{wordsOf(picked)}</Box>
          <Labelled label="What you call it">
            <Input
              bg="raised"
              borderColor="edge"
              autoComplete="off"
              value={name}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={onKeys({ Enter: done })}
            />
          </Labelled>
        </Box>
      )}
      <HStack mt="2" wrap="wrap">
        <Plain tone="strong" onClick={done}>
          Keep the place
        </Plain>
        <Plain
          onClick={() =>
            locate((at) => {
              setText(at);
              const here = pairOf(at);
              if (here) pick(here);
            }, setProblem)
          }
        >
          Where this device is
        </Plain>
      </HStack>
      <Problem error={problem} />
    </Box>
  );
};

/** Where the rig stands: searched, from the device on request, or picked from earlier places. */
export const PlaceField = ({
  name,
  words,
  earlier = [],
  onKeep,
  onZone,
}: {
  name: string;
  /** Where it stands as far as is known. */
  words?: string;
  earlier?: readonly Place[];
  onKeep?: () => void;
  /** Told the timezone of a place that was found. */
  onZone?: (timezone: string) => void;
}) => {
  const { control } = useFormContext();
  const { field, fieldState } = useController({ name, control });
  const [open, setOpen] = useState(false);
  const keep = (place: Place, timezone: string | null = null) => {
    setOpen(false);
    field.onChange(place);
    if (timezone) onZone?.(timezone);
    onKeep?.();
  };
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
      {open && <PlaceSearch keep={keep} />}
      <Problem error={fieldState.error?.message} />
    </Box>
  );
};
