import { scaleLinear } from "d3-scale";

export type Scale = ReturnType<typeof scaleLinear<number, number>>;

export const MARGIN = { left: 66, right: 16, top: 12 };

export function makeScale(domain: [number, number], range: [number, number]): Scale {
  return scaleLinear().domain(domain).range(range);
}

/** Whether a stretch can be drawn at all: its numbers leave room for sums and differences. */
export function drawable([low, high]: [number, number]): boolean {
  const span = high - low;
  return span > 1e-290 && span < 1e290 && low + span / 1000 > low;
}

const RAISED = "⁰¹²³⁴⁵⁶⁷⁸⁹";

/** A tick as text: true minus, thin spaces, powers of ten for the very large and small. */
export function tickText(value: number, step: number): string {
  if (value === 0) return "0";
  const size = Math.abs(value);
  if (size >= 1e6 || step < 1e-4) {
    const [digits, power] = value.toExponential(Math.min(6, Math.max(0, Math.floor(Math.log10(size)) - Math.floor(Math.log10(step))))).split("e");
    const exponent = Number(power);
    const raised = (exponent < 0 ? "⁻" : "") + [...String(Math.abs(exponent))].map((digit) => RAISED[Number(digit)]).join("");
    return `${digits!.replace("-", "−")}×10${raised}`;
  }
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  const [whole, rest] = size.toFixed(decimals).split(".");
  return (value < 0 ? "−" : "") + groupDigits(whole!) + (rest ? `.${rest}` : "");
}

/** Thin spaces between thousands, from five digits on. */
export function groupDigits(digits: string | number): string {
  const text = String(digits);
  return text.length > 4 ? text.replace(/\B(?=(\d{3})+$)/g, "\u202f") : text;
}

/** Ticks of an axis with their texts. */
export function ticksOf(scale: Scale, count: number): { value: number; text: string }[] {
  const values = scale.ticks(count);
  const step = values.length > 1 ? Math.abs(values[1]! - values[0]!) : Math.abs(values[0] ?? 1) || 1;
  return values.map((value) => ({ value, text: tickText(value, step) }));
}
