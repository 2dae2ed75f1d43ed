import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";

import type { Schemas } from "../api/client";

export type Hour = Schemas["HourOut"];
export type EnergyDay = Schemas["EnergyDayOut"];
export type Energy = Schemas["EnergyOut"];

const round = (value: number): number => Math.round(value * 10) / 10;
export const time = (iso: string): number => Date.parse(iso);
export const percent = (share: number): string => `${Math.round(share * 100)} %`;
export const wh = (value: number): string => `${Math.round(value).toLocaleString("en")} Wh`;

export const spanWords = (range: { p10: number; p90: number }): string => {
  const [low, high] = [Math.round(range.p10 * 100), Math.round(range.p90 * 100)];
  return low === high ? `${high} %` : `${low} to ${high} %`;
};

/** Hours to width and shares of capacity to height. */
export const hourScales = (from: number, to: number, width: number, top: number, bottom: number) => {
  const across = scaleLinear().domain([from, to]).range([0, width]);
  const up = scaleLinear().domain([0, 1]).range([bottom, top]);
  return {
    x: (iso: string): number => round(across(time(iso))),
    y: (share: number): number => round(up(Math.min(Math.max(share, 0), 1))),
  };
};

export const hourBand = (hours: Hour[], x: (iso: string) => number, y: (share: number) => number): string =>
  area<Hour>()
    .x((hour) => x(hour.at))
    .y0((hour) => y(hour.p10))
    .y1((hour) => y(hour.p90))(hours) ?? "";

export const hourLine = (hours: Hour[], x: (iso: string) => number, y: (share: number) => number): string =>
  line<Hour>()
    .x((hour) => x(hour.at))
    .y((hour) => y(hour.p50))(hours) ?? "";

/** Watt-hours to height, above and below one ledger line. */
export const dayScale = (days: EnergyDay[], height: number) => {
  const into = Math.max(...days.map((day) => Math.max(day.offered_high, (day.taken ?? 0) + day.other)), 1);
  const out = Math.max(...days.map((day) => day.load), 1);
  const per = height / (into + out);
  return { zero: round(into * per), of: (value: number): number => round(value * per) };
};

export const spanWh = (day: EnergyDay): string =>
  `${Math.round(day.offered_low).toLocaleString("en")} to ${wh(day.offered_high)}`;

export const dayWords = (day: EnergyDay): string => {
  const parts = [
    day.coming
      ? `sun ${spanWh(day)}`
      : `sun offered about ${wh(day.offered)}, ${day.taken === null ? "yield not logged" : `taken ${wh(day.taken)}`}`,
    day.full ? "the bank was full" : null,
    day.other > 0 ? `charged otherwise ${wh(day.other)}` : null,
    day.wasted !== null && day.wasted > 50 ? `about ${wh(day.wasted)} finds no room` : null,
    `drawn ${day.load_logged ? "" : "about "}${wh(day.load)}`,
  ];
  return parts.filter(Boolean).join(", ");
};

/** Local midnights between two times, from the days' own dates. */
export const nights = (hours: Hour[]): string[] =>
  hours.filter((hour) => hour.at.slice(11, 13) === "00").map((hour) => hour.at);
