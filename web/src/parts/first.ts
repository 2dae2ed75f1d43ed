import { useEffect, useState } from "react";

let stands = false;

/** Whether the first words of the first view stand on the screen; what lies below them is drawn after that. */
export const useFirstStands = (): boolean => {
  const [seen, setSeen] = useState(stands);
  useEffect(() => {
    if (seen) return;
    let soon = 0;
    // a frame is begun, then painted
    const frame = requestAnimationFrame(() => {
      soon = window.setTimeout(() => {
        stands = true;
        setSeen(true);
      });
    });
    return () => {
      cancelAnimationFrame(frame);
      window.clearTimeout(soon);
    };
  }, [seen]);
  return seen;
};
