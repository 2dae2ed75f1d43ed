/** A date of which nothing is known but that it was. */
export const noFacts = (date: string) => ({
  date,
  sky: null,
  temp_min: null,
  temp_max: null,
  status: null,
  crew_aboard: null,
  solar_wh: null,
  load_wh: null,
  water: null,
  note: null,
  place: null,
  panels_covered: null,
});
