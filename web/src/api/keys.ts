/** Every key under which an answer is kept. What is of a rig begins with `ofRig`. */
export const keys = {
  me: ["me"] as const,
  ofRig: (rig: number) => ["rig", rig] as const,
  asked: (rig: number, what: string, given: object = {}) => ["rig", rig, what, given] as const,
  /** What is asked while somebody types or waits: it is not kept, and nothing that is written makes it older. */
  apart: (rig: number, what: string, given: object = {}) => ["apart", rig, what, given] as const,
  places: (text: string) => ["apart", "places", text] as const,
  own: (rig: number) => ["own", rig] as const,
  invited: (token: string) => ["apart", "invited", token] as const,
};
