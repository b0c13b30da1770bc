import { type RefObject, useLayoutEffect, useState } from "react";

/** Inner size of an element in whole pixels, followed as it changes; zero until it is first shown. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const target = element.current;
    if (!target) return;
    const measure = () => {
      const { clientWidth: width, clientHeight: height } = target;
      // A part that is not shown keeps its last size, and paper scales what the screen has drawn.
      if (width && height && !window.matchMedia("print").matches) setSize({ width, height });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(target);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
