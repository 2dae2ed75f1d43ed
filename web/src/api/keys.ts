/** Every key under which an answer is kept. What is of a rig begins with `ofRig`. */
export const keys = {
  me: ["me"] as const,
  ofRig: (rig: number) => ["rig", rig] as const,
  horizon: (rig: number) => ["rig", rig, "horizon"] as const,
  round: (rig: number) => ["rig", rig, "round"] as const,
  rig: (rig: number) => ["rig", rig, "rig"] as const,
  checks: (rig: number, doc: unknown) => ["rig", rig, "checks", doc] as const,
  gauges: (rig: number) => ["rig", rig, "gauges"] as const,
  crew: (rig: number) => ["rig", rig, "crew"] as const,
  review: (rig: number) => ["rig", rig, "review"] as const,
  energy: (rig: number, bank: string | null) => ["rig", rig, "energy", bank] as const,
  levers: (rig: number, bank: string | null) => ["rig", rig, "levers", bank] as const,
  log: (rig: number) => ["rig", rig, "log"] as const,
  history: (rig: number, on: string) => ["rig", rig, "history", on] as const,
  understand: (rig: number, store: string, text: string) => ["understand", rig, store, text] as const,
};
