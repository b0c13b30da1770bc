import type { Analysis } from "../api/client";
import { MARGIN, type Scale, ticksOf } from "./scales";

type Naming = Analysis["naming"];

/** Name, symbol in italics, unit: as an axis says it. */
function Title({ name, symbol, unit }: { name: string; symbol: string; unit: string }) {
  const [head, ...tail] = symbol.split("_");
  return (
    <>
      {name && `${name} `}
      <tspan fontFamily="var(--font-book)" fontStyle="italic">
        {head}
      </tspan>
      {tail.length > 0 && (
        <tspan fontFamily="var(--font-book)" fontSize="9" dy="3">
          {tail.join("_")}
        </tspan>
      )}
      {unit && <tspan dy={tail.length ? -3 : 0}>{` / ${unit}`}</tspan>}
    </>
  );
}

export function YAxis({ y, right, naming, residual }: { y: Scale; right: number; naming: Naming; residual?: boolean }) {
  const [bottom, top] = y.range() as [number, number];
  const height = bottom - top;
  const ticks = ticksOf(y, residual ? 3 : Math.max(2, Math.floor(height / 60)));
  return (
    <g fontSize="11.5" fill="var(--color-mute)">
      {ticks.map(({ value, text }) => (
        <g key={value} transform={`translate(0 ${y(value)})`}>
          {!residual && <line x1={MARGIN.left} x2={right} stroke="var(--color-rule)" strokeWidth="0.7" />}
          <line x1={MARGIN.left - 4} x2={MARGIN.left} stroke="var(--color-edge)" />
          <text x={MARGIN.left - 8} dy="0.34em" textAnchor="end">
            {residual && value > 0 ? `+${text}` : text}
          </text>
        </g>
      ))}
      <line x1={MARGIN.left} x2={MARGIN.left} y1={top} y2={bottom} stroke="var(--color-ink)" strokeWidth="1.1" />
      <text transform={`translate(15 ${(top + bottom) / 2}) rotate(-90)`} textAnchor="middle" fontSize="12.5" fill="var(--color-ink)">
        {residual ? (naming.y_unit ? `residual / ${naming.y_unit}` : "residual") : <Title name={naming.y_name} symbol={naming.y} unit={naming.y_unit} />}
      </text>
    </g>
  );
}

export function XAxis({ x, at, naming }: { x: Scale; at: number; naming: Naming }) {
  const [left, right] = x.range() as [number, number];
  return (
    <g fontSize="11.5" fill="var(--color-mute)">
      {ticksOf(x, Math.max(2, Math.floor((right - left) / 70))).map(({ value, text }) => (
        <g key={value} transform={`translate(${x(value)} ${at})`}>
          <line y2="4" stroke="var(--color-edge)" />
          <text y="16" textAnchor="middle">
            {text}
          </text>
        </g>
      ))}
      <text x={(left + right) / 2} y={at + 36} textAnchor="middle" fontSize="12.5" fill="var(--color-ink)">
        <Title name={naming.x_name} symbol={naming.x} unit={naming.x_unit} />
      </text>
    </g>
  );
}
