import { type RefObject, useLayoutEffect, useState } from "react";

/** Inner size of an element in whole pixels, followed as it changes. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const target = element.current;
    if (!target) return;
    const measure = () => setSize({ width: Math.floor(target.clientWidth), height: Math.floor(target.clientHeight) });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(target);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
