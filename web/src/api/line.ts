/** Whether Lodeline is reached: the browser may have a network and the server still be out of reach. */

let reached = true;
const listeners = new Set<() => void>();
const tellAll = () => {
  for (const tell of listeners) tell();
};

const tried = (came: boolean) => {
  if (reached === came) return;
  reached = came;
  tellAll();
};

window.addEventListener("offline", tellAll);
window.addEventListener("online", () => {
  // until it is tried again, nothing speaks against it
  reached = true;
  tellAll();
});

export const line = {
  isUp: () => navigator.onLine && reached,
  subscribe: (tell: () => void) => {
    listeners.add(tell);
    return () => void listeners.delete(tell);
  },
  /** Ask, and remember whether anything came. `isOver`: nobody waits for it any more, so that it says nothing. */
  ask: async (asked: () => Promise<Response>, isOver: () => boolean): Promise<Response> => {
    try {
      const answer = await asked();
      tried(true);
      return answer;
    } catch (error) {
      if (!isOver()) tried(false);
      throw error;
    }
  },
};
