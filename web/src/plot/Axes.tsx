import { memo } from "react";

import type { Analysis } from "../api/client";
import { MARGIN } from "./areas";
import type { Scale } from "./scales";
import { axisTicks, minorsOf, type Tick, type Ticks } from "./ticks";
import { overWithPower, powerOfTen } from "../ui/numbers";

type Naming = Analysis["naming"];

/** How an axis is divided: typed tick steps, gridlines, hours and minutes. */
export interface Division {
  step?: number | null;
  grid: "none" | "major" | "minor";
  clock?: boolean;
  /** What its values are divided by to give the numbers at the ticks. */
  over: string;
  /** The title of a straightened axis. */
  title?: string;
}

/** Name, symbol in italics, unit: as an axis says it. */
function Title({ name, symbol, over }: { name: string; symbol: string; over: string }) {
  const [head, ...tail] = symbol.split("_");
  return (
    <>
      {name && `${name} `}
      <tspan fontFamily="var(--font-book)" fontStyle="italic">
        {head}
      </tspan>
      {tail.length > 0 && (
        <tspan fontFamily="var(--font-book)" fontSize="var(--text-note)" dy="3">
          {tail.join("_")}
        </tspan>
      )}
      {over && <tspan dy={tail.length ? -3 : 0}>{` / ${over}`}</tspan>}
    </>
  );
}

const within = (ticks: Tick[], [a, b]: [number, number]) =>
  ticks.filter(({ at }) => at >= Math.min(a, b) - 0.5 && at <= Math.max(a, b) + 0.5);

/** Width of a letter of a title, about. */
const LETTER = 6;

export const YAxis = memo(function YAxis({
  y,
  right,
  naming,
  residual,
  division,
}: {
  y: Scale;
  right: number;
  naming: Naming;
  residual?: boolean;
  division: Division;
}) {
  const [bottom, top] = y.range();
  const height = bottom - top;
  const along = residual ? axisTicks(y, 3) : axisTicks(y, tickCount(height, 34), division.step, division.clock);
  const ticks = within(along.ticks, [bottom, top]);
  const over = overWithPower(residual ? naming.y_over : division.over, along.power);
  // A title longer than its axis is the symbol alone.
  const name = (naming.y_name.length + over.length + 6) * LETTER > height ? "" : naming.y_name;
  const lines = !residual && division.grid !== "none";
  const minors = residual || division.grid !== "minor" ? [] : minorsOf(y, ticks);
  return (
    <g fontSize="var(--text-note)" fill="var(--color-mute)">
      {minors.map((at) => (
        <g key={at}>
          <line x1={MARGIN.left} x2={right} y1={at} y2={at} stroke="var(--color-rule)" strokeWidth="0.4" />
          <line x1={MARGIN.left - 2.5} x2={MARGIN.left} y1={at} y2={at} stroke="var(--color-edge)" />
        </g>
      ))}
      {ticks.map(({ key, at, text }) => (
        <g key={key} transform={`translate(0 ${at})`} data-tick={residual ? undefined : text}>
          {lines && <line x1={MARGIN.left} x2={right} stroke="var(--color-rule)" strokeWidth="0.7" />}
          <line x1={MARGIN.left - 4} x2={MARGIN.left} stroke="var(--color-edge)" />
          <text x={MARGIN.left - 8} dy="0.34em" textAnchor="end">
            {residual && key > 0 ? `+${text}` : text}
          </text>
        </g>
      ))}
      <line x1={MARGIN.left} x2={MARGIN.left} y1={top} y2={bottom} stroke="var(--color-ink)" strokeWidth="1.1" />
      <text
        transform={`translate(15 ${(top + bottom) / 2}) rotate(-90)`}
        textAnchor="middle"
        fontSize="var(--text-note)"
        fill="var(--color-ink)"
      >
        {residual && (over ? `residual / ${over}` : "residual")}
        {!residual && (withPower(division.title, along.power) ?? <Title name={name} symbol={naming.y} over={over} />)}
      </text>
    </g>
  );
});

export const XAxis = memo(function XAxis({
  x,
  at,
  naming,
  division,
  along,
}: {
  x: Scale;
  at: number;
  naming: Naming;
  division: Division;
  along: Ticks;
}) {
  const [left, right] = x.range();
  const over = overWithPower(division.over, along.power);
  return (
    <g fontSize="var(--text-note)" fill="var(--color-mute)">
      {along.ticks.map(({ key, at: place, text }) => (
        <g key={key} transform={`translate(${place} ${at})`} data-tick={text}>
          <line y2="4" stroke="var(--color-edge)" />
          <text y="16" textAnchor="middle">
            {text}
          </text>
        </g>
      ))}
      <text x={(left + right) / 2} y={at + 36} textAnchor="middle" fontSize="var(--text-note)" fill="var(--color-ink)">
        {withPower(division.title, along.power) ?? <Title name={naming.x_name} symbol={naming.x} over={over} />}
      </text>
    </g>
  );
});

const MOST = 8;

/** How many ticks are wanted along a length: about eight, fewer where their numbers need the room. */
const tickCount = (length: number, room: number) => Math.min(MOST, Math.max(2, Math.floor(length / room)));

/** Ticks of the x axis that lie within it. */
export function xTicks(x: Scale, division: Division): Ticks {
  const [left, right] = x.range();
  const found = axisTicks(x, tickCount(right - left, 58), division.step, division.clock);
  return { ...found, ticks: within(found.ticks, [left, right]) };
}

/** The title of a straightened axis, with the power of ten at its ticks. */
const withPower = (title: string | undefined, power: number) => (title && power ? `${title} / ${powerOfTen(power)}` : title);

/** Upright gridlines, drawn under everything else in the plot. */
export const XGrid = memo(function XGrid({
  x,
  top,
  bottom,
  division,
  ticks,
}: {
  x: Scale;
  top: number;
  bottom: number;
  division: Division;
  ticks: Tick[];
}) {
  if (division.grid === "none") return null;
  return (
    <g>
      {division.grid === "minor" &&
        minorsOf(x, ticks).map((at) => <line key={at} x1={at} x2={at} y1={top} y2={bottom} stroke="var(--color-rule)" strokeWidth="0.4" />)}
      {division.grid === "minor" &&
        ticks.map(({ key, at }) => <line key={key} x1={at} x2={at} y1={top} y2={bottom} stroke="var(--color-rule)" strokeWidth="0.7" />)}
    </g>
  );
});
