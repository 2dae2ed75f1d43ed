/** The views, in the order in which they stand, with the key that opens each. */
export const VIEWS = [
  { to: "/", label: "Horizon", key: "h" },
  { to: "/round", label: "Round", key: "r" },
  { to: "/log", label: "Logbook", key: "l" },
  { to: "/energy", label: "Energy", key: "e" },
  { to: "/water", label: "Water", key: "w" },
  { to: "/fuel", label: "Fuel", key: "f" },
  { to: "/stops", label: "Stops", key: "s" },
  { to: "/rig", label: "Rig", key: "g" },
  { to: "/review", label: "Looking back", key: "b" },
] as const;
