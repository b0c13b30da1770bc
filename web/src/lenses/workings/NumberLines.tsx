import { type KeyboardEvent, useEffect, useRef } from "react";

import type { WorkingStep } from "../../api/client";
import { byMouse } from "../../ui/byMouse";
import { Typeset } from "../../ui/Typeset";
import type { Lights } from "./lights";
import { isIn, isList, type Spot } from "./origins";

interface Props {
  step: WorkingStep;
  place: number;
  lights: Lights;
  onPoint: (spot: Spot | null) => void;
}

/** The equations of a step; each number in them can be pointed at, and lights up where it came from. */
export function NumberLines({ step, place, lights, onPoint }: Props) {
  const list = useRef<HTMLUListElement>(null);
  const at = useRef(0);
  const spotOf = (number: number | undefined): Spot =>
    number === undefined ? { step: place, row: 0, column: 0 } : { step: place, row: isList(step) ? number : 0, column: 0, number };
  useLitNumbers(list, lights);
  const point = (number: number) => {
    at.current = number;
    onPoint(spotOf(number));
  };
  const pointAt = (event: { target: EventTarget }) => {
    if (step.grid) return;
    const under = event.target instanceof Element ? event.target.closest<HTMLElement>("[data-number]") : null;
    const number = under?.dataset.number;
    onPoint(spotOf(number === undefined ? undefined : Number(number)));
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    point(Math.max(0, Math.min(step.numbers.length - 1, at.current + by)));
  };
  const walked = step.numbers.length > 0;
  const whole = step.grid || isList(step) ? "" : shadeOf(lights);
  return (
    <ul
      ref={list}
      className={`equation-lines grid max-w-full gap-1 py-0.5 pl-4 ${walked ? "pointed-numbers" : ""} ${whole}`}
      onPointerOver={(event) => byMouse(event) && pointAt(event)}
      onClick={pointAt}
      onPointerLeave={(event) => byMouse(event) && onPoint(null)}
      {...(walked && {
        tabIndex: 0,
        "aria-label": `Numbers of ${step.lines[0]!.text}`,
        onKeyDown,
        onFocus: () => point(at.current),
        onBlur: () => onPoint(null),
      })}
    >
      {step.lines.map((line, row) => (
        <li key={row}>
          <Typeset latex={`\\displaystyle ${line.marked}`} text={line.text} />
        </li>
      ))}
    </ul>
  );
}

function shadeOf({ at, from, to }: Lights): string {
  if (at && at.number === undefined) return "outline-2 outline-pine";
  if (isIn(from, 0, 0)) return "bg-tint";
  return isIn(to, 0, 0) ? "bg-lichen/40" : "";
}

/** The typeset numbers are no elements of React's: what is lit is told them by an attribute. */
function useLitNumbers(list: React.RefObject<HTMLUListElement | null>, { at, fromNumbers, toNumbers }: Lights) {
  useEffect(() => {
    list.current?.querySelectorAll<HTMLElement>("[data-number]").forEach((element) => {
      const number = Number(element.dataset.number);
      const lit = at?.number === number ? "at" : fromNumbers?.includes(number) ? "from" : toNumbers?.includes(number) ? "to" : null;
      if (lit) element.dataset.lit = lit;
      else delete element.dataset.lit;
    });
  }, [list, at, fromNumbers, toNumbers]);
}
