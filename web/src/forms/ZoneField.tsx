import { useFormContext, useWatch } from "react-hook-form";

import { ChoiceField } from "./fields";

/** A timezone as people look for it: its city first. */
const words = (zone: string): string => {
  const [city = zone, ...area] = zone.split("/").reverse();
  return area.length === 0 ? zone : `${city.replaceAll("_", " ")} (${area.reverse().join("/").replaceAll("_", " ")})`;
};

/** The rig's timezone, chosen by city; it follows from the place where that was said. */
export const ZoneField = ({ name }: { name: string }) => {
  useFormContext();
  const value = useWatch({ name }) as string;
  const known = Intl.supportedValuesOf("timeZone");
  const zones = known.includes(value) || value === "" ? known : [value, ...known];
  const options = zones.map((zone) => [zone, words(zone)] as const);
  return <ChoiceField name={name} options={options.sort((a, b) => a[1].localeCompare(b[1]))} />;
};
