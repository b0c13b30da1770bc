import { bisector } from "d3-array";
import { useEffect, useRef, useState } from "react";

import type { Curve } from "../api/client";

const MILLISECONDS = 180;
const ascending = bisector((x: number) => x);

/** y of a curve at x, between its samples. */
function heightAt(curve: Curve, x: number): number | null {
  const next = ascending.right(curve.x, x);
  const [x0, x1, y0, y1] = [curve.x[next - 1], curve.x[next], curve.y[next - 1], curve.y[next]];
  if (x0 === undefined || y0 == null) return null;
  if (x1 === undefined || y1 == null || x1 === x0) return y0;
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0);
}

/** A curve that, when what it is changes from set by hand to fitted, moves there in a moment instead of jumping. */
export function useMorph(curve: Curve, kind: string): Curve {
  const last = useRef({ curve, kind });
  const [share, setShare] = useState<{ from: Curve; at: number } | null>(null);
  useEffect(() => {
    const before = last.current;
    last.current = { curve, kind };
    if (before.kind !== "hand" || kind !== "fit" || window.matchMedia("(prefers-reduced-motion: reduce)").matches) return;
    const start = performance.now();
    let frame = 0;
    const step = (now: number) => {
      const at = Math.min(1, (now - start) / MILLISECONDS);
      setShare(at < 1 ? { from: before.curve, at } : null);
      if (at < 1) frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => {
      cancelAnimationFrame(frame);
      setShare(null);
    };
  }, [curve, kind]);
  if (!share) return curve;
  const y = curve.x.map((x, i) => {
    const [from, to] = [heightAt(share.from, x), curve.y[i] ?? null];
    return from === null || to === null ? to : from + (to - from) * share.at;
  });
  return { ...curve, y, low: y, high: y };
}
