import type { Schemas } from "../api/client";
import type { Shown } from "../forms/fields";
import type { Typed } from "../forms/typed";

type Spot = Schemas["SpotDoc"];
export type Services = Schemas["ServicesDoc"];
export type ServiceId = keyof Services;

const DAYS = ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"] as const;
export type Day = (typeof DAYS)[number];
export const DAY_NAMES: Record<Day, string> = {
  Mo: "Monday",
  Tu: "Tuesday",
  We: "Wednesday",
  Th: "Thursday",
  Fr: "Friday",
  Sa: "Saturday",
  Su: "Sunday",
};

/** A place as its form has it: every service with its figures, whether it is offered or not. */
export interface Draft {
  name: string;
  lat: Typed;
  lon: Typed;
  offered: ServiceId[];
  services: Record<string, Record<string, Typed | string | boolean | string[] | null>>;
  hours: "always" | "plain" | "notation";
  plain: Record<Day, { open: boolean; opens: string; closes: string }>;
  opening_hours: string;
  fee: Typed;
  max_nights: Typed;
  max_length_m: Typed;
  max_height_m: Typed;
  closed_months: number[];
  note: string;
}

const IDS: ServiceId[] = ["water", "grey", "black", "solids", "hookup", "gas", "fuel", "supplies", "laundry", "shower"];

const plainOf = (plain: Schemas["PlainHours"][] | null): Draft["plain"] =>
  Object.fromEntries(
    DAYS.map((day) => {
      const said = plain?.find((each) => each.day === day);
      return [day, { open: said !== undefined, opens: said?.opens ?? "08:00", closes: said?.closes ?? "18:00" }];
    }),
  ) as Draft["plain"];

/** What a form begins with. */
export const draftOf = (form: Schemas["SpotForm"] | null, here: Schemas["PlaceOut"] | null): Draft => {
  const spot = form?.spot;
  const services = (spot?.services ?? {}) as Record<string, Draft["services"][string] | null>;
  const always = !spot?.opening_hours || spot.opening_hours === "24/7";
  return {
    name: spot?.name ?? "",
    lat: spot?.lat ?? here?.lat ?? null,
    lon: spot?.lon ?? here?.lon ?? null,
    offered: IDS.filter((id) => services[id]),
    services: Object.fromEntries(IDS.map((id) => [id, services[id] ?? {}])),
    hours: always ? "always" : form?.plain ? "plain" : "notation",
    plain: plainOf(form?.plain ?? null),
    opening_hours: spot?.opening_hours ?? "",
    fee: spot?.fee ?? null,
    max_nights: spot?.max_nights ?? null,
    max_length_m: spot?.max_length_m ?? null,
    max_height_m: spot?.max_height_m ?? null,
    closed_months: spot?.closed_months ?? [],
    note: spot?.note ?? "",
  };
};

const numberOr = (value: Typed): number | null => (typeof value === "number" ? value : null);

/** What of a service was said; nothing typed is nothing said. */
const said = (fields: Draft["services"][string]): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(fields).filter(([, value]) => value !== null && value !== undefined && value !== ""),
  );

/** The place that a form makes. */
export const spotOf = (draft: Draft, place: string | null, notes: Schemas["SpotDoc"]["notes"]): Schemas["SpotIn"] => {
  const spot = {
    id: place ?? "new",
    name: draft.name.trim(),
    lat: numberOr(draft.lat) ?? 999,
    lon: numberOr(draft.lon) ?? 999,
    services: Object.fromEntries(draft.offered.map((id) => [id, said(draft.services[id] ?? {})])) as Services,
    opening_hours: draft.hours === "notation" ? draft.opening_hours.trim() || null : null,
    fee: numberOr(draft.fee),
    max_nights: numberOr(draft.max_nights),
    max_length_m: numberOr(draft.max_length_m),
    max_height_m: numberOr(draft.max_height_m),
    closed_months: draft.closed_months.length > 0 ? [...draft.closed_months].sort((a, b) => a - b) : null,
    note: draft.note.trim() || null,
    notes,
  } as Spot;
  const plain =
    draft.hours !== "plain"
      ? null
      : DAYS.filter((day) => draft.plain[day].open).map((day) => ({
          day,
          opens: draft.plain[day].opens,
          closes: draft.plain[day].closes,
        }));
  return { spot, plain };
};

/** A price of a unit, shown for the unit that people buy in. */
export const priceOf = (shown: { unit: string; factor: number }): Shown => ({
  unit: `for a ${shown.unit}`,
  show: (price) => price / shown.factor,
  keep: (price) => price * shown.factor,
});
