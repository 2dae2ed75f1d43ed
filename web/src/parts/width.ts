import { useLayoutEffect, useRef, useState } from "react";

/** A box and its width in pixels, for drawings that fill it. */
export const useWidth = () => {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const measure = () => setWidth(element.clientWidth);
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return [box, width] as const;
};
