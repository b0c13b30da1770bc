import { select, type Selection } from "d3-selection";
import { type D3ZoomEvent, zoom, zoomIdentity, zoomTransform, type ZoomBehavior } from "d3-zoom";
import { type RefObject, useCallback, useEffect, useRef } from "react";

import { type Domain, setView, useView } from "../study/view";
import type { Shapes } from "./domains";
import { makeScale, moved } from "./scales";

/**
 * Wheel, drag and pinch on the plot. The gestures are d3-zoom's; what they give is kept as a domain, so that
 * the view can also be set from elsewhere (back to all readings, bring in what lies beyond an edge).
 * `drawn`: whether the plot is there. `dragging`: whether a drag moves the view, rather than doing what the tool in hand does.
 */
export function useZoom(
  target: RefObject<SVGSVGElement | null>,
  shown: Domain,
  shapes: Shapes,
  area: { width: number; height: number },
  drawn: boolean,
  dragging: boolean,
) {
  const held = useRef<{
    zooming: ZoomBehavior<SVGSVGElement, unknown>;
    selection: Selection<SVGSVGElement, unknown, null, undefined>;
  } | null>(null);
  const base = useRef(shown);
  const how = useRef(shapes);
  const emitted = useRef<Domain | null>(null);
  const domain = useView((view) => view.domain);

  useEffect(() => {
    how.current = shapes;
    const element = target.current;
    if (!element) return;
    if (domain === null || domain !== emitted.current) {
      base.current = shown;
      emitted.current = null;
      select(element).property("__zoom", zoomIdentity);
    }
  }, [domain, shown, shapes, target]);

  useEffect(() => {
    const element = target.current;
    if (!element || !drawn || !area.width) return;
    const zooming = zoom<SVGSVGElement, unknown>()
      .scaleExtent([1e-3, 1e6])
      .filter((event: Event) => {
        if (event.target instanceof Element && event.target.closest("[data-handle]")) return false;
        if (event.type === "wheel") return true;
        const fingers = window.TouchEvent && event instanceof TouchEvent ? event.touches.length : 1;
        return (dragging || fingers > 1) && !(event instanceof MouseEvent && event.button);
      })
      .on("zoom", ({ transform, sourceEvent }: D3ZoomEvent<SVGSVGElement, unknown>) => {
        if (transform === zoomIdentity && !sourceEvent) return;
        const next: Domain = {
          x: moved(makeScale(base.current.x, [0, area.width], how.current.x), (pixel) => transform.invertX(pixel)),
          y: moved(makeScale(base.current.y, [area.height, 0], how.current.y), (pixel) => transform.invertY(pixel)),
        };
        if (![...next.x, ...next.y].every(Number.isFinite)) return;
        emitted.current = next;
        setView({ domain: next });
      });
    const selection = select(element);
    held.current = { zooming, selection };
    selection.call(zooming).on("dblclick.zoom", null);
    return () => {
      selection.on(".zoom", null);
    };
  }, [area.width, area.height, drawn, dragging, target]);

  const by = useCallback((factor: number) => {
    if (held.current) held.current.zooming.scaleBy(held.current.selection, factor);
  }, []);
  const pan = useCallback((dx: number, dy: number) => {
    if (!held.current) return;
    const { zooming, selection } = held.current;
    const element = selection.node();
    if (!element) return;
    const { k } = zoomTransform(element);
    zooming.translateBy(selection, dx / k, dy / k);
  }, []);
  return { by, pan };
}
