/** A number that the hand sets, with the decimals of its step. */
export function toStep(value: number, step: number): string {
  const decimals = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  if (decimals > 12 || Math.abs(value) >= 1e12) return String(Number(value.toPrecision(6)));
  return (Math.round(value / step) * step).toFixed(decimals).replace(/^-(0(\.0*)?)$/, "$1");
}

/** A number in a field, every digit of it, with a true minus sign. */
export const inField = (value: number) => String(value).replaceAll("-", "−");

/** A number as typed: a decimal comma and a true minus sign are understood; null where it is none. */
export function readNumber(text: string): number | null {
  const plain = text.trim().replace(/[\u2212\u2013]/g, "-").replace(",", ".");
  const value = plain ? Number(plain) : NaN;
  return Number.isFinite(value) ? value : null;
}
