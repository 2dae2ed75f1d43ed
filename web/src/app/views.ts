interface View {
  to: string;
  label: string;
  /** The key that opens it. */
  key: string;
  /** What it is for, in a line. */
  what: string;
  /** Whether it is used every day: it stands within reach of a thumb. */
  daily?: boolean;
}

/** The views, in the order in which they stand. */
export const VIEWS: readonly View[] = [
  { to: "/", label: "Horizon", key: "h", what: "How long you can stay, and what ends it.", daily: true },
  { to: "/round", label: "Round", key: "r", what: "Log what the gauges show and what was done.", daily: true },
  { to: "/log", label: "Logbook", key: "l", what: "Each day with its entries: correct, import, export." },
  { to: "/energy", label: "Energy", key: "e", what: "The bank: sun, loads, can I run it, how long to charge." },
  { to: "/water", label: "Water", key: "w", what: "Where the water goes, a ration, the toilet, jugs." },
  { to: "/fuel", label: "Fuel", key: "f", what: "Gas, heat and fuel: cold nights left, range, bottles." },
  { to: "/stops", label: "Stops", key: "s", what: "Where to go next, when, and what to do there.", daily: true },
  { to: "/rig", label: "Rig", key: "g", what: "Everything aboard, its gauges and its lines." },
  { to: "/review", label: "Looking back", key: "b", what: "How the forecasts did, and what the rig really uses." },
];

export const MORE = "/more";
