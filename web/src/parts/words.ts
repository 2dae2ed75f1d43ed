/** Numbers and times as people read them. Rules of the job live on the server; this is typography. */

export const amount = (value: number, unit: string, decimals = 1): string => {
  const digits = Math.abs(value) < 10 ? decimals : 0;
  return `${value.toLocaleString("en", { minimumFractionDigits: digits, maximumFractionDigits: digits })} ${unit}`;
};

/** A date as `Thu 26 Nov`; the date is the rig's own, so it is read without a timezone. */
export const dateWords = (date: string, long = false): string =>
  new Intl.DateTimeFormat("en-GB", {
    weekday: long ? "long" : "short",
    day: "numeric",
    month: long ? "long" : "short",
    timeZone: "UTC",
  }).format(new Date(`${date}T12:00:00Z`));

export const weekday = (date: string): string =>
  new Intl.DateTimeFormat("en-GB", { weekday: "short", timeZone: "UTC" }).format(new Date(`${date}T12:00:00Z`));

/** The clock time that an ISO time with its offset shows, wherever this device is. */
export const clock = (iso: string): string => iso.slice(11, 16);

export const whenWords = (iso: string): string => `${dateWords(iso.slice(0, 10))}, ${clock(iso)}`;
