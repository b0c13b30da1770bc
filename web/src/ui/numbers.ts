import { inSign } from "./decimalSign";

/** A number that the hand sets, with the decimals of its step, or with `fewest` where these are more. */
export function toStep(value: number, step: number, fewest = 0): string {
  const decimals = Math.max(fewest, Math.ceil(-Math.log10(step) - 1e-9));
  if (decimals > 12 || Math.abs(value) >= 1e12) return String(sixDigits(value));
  return (Math.round(value / step) * step).toFixed(decimals).replace(/^-(0(\.0*)?)$/, "$1");
}

/** A number in a field, every digit of it, with a true minus sign; where a clock shows it, as that does: 13:30. */
export const inField = (value: number, clock = "") => (clock ? clockText(value, clock) : inSign(String(value)).replaceAll("-", "−"));

/** A number as typed: a decimal comma and a true minus sign are understood, and 13:30 where a clock shows it; null where it is none. */
export function readNumber(text: string, clock = ""): number | null {
  const plain = text
    .trim()
    .replace(/[\u2212\u2013]/g, "-")
    .replace(",", ".");
  const parts = clock ? /^(-?)(\d{1,4}):([0-5]?\d(?:\.\d+)?)(?::([0-5]?\d(?:\.\d+)?))?$/.exec(plain) : null;
  if (parts) return (parts[1] ? -1 : 1) * (Number(parts[2]) + Number(parts[3]) / 60 + Number(parts[4] ?? 0) / 3600);
  const value = plain ? Number(plain) : NaN;
  return Number.isFinite(value) ? value : null;
}

/** 13.5 as 13:30, with seconds where the clock has them. */
function clockText(value: number, clock: string): string {
  const [small, places] = clock === "h:min:s" ? [3600, 3] : [60, 2];
  const all = Math.round(Math.abs(value) * small * 1000) / 1000;
  const last = Math.round((all % 60) * 1000) / 1000;
  const parts = [last];
  for (let rest = Math.floor(all / 60); parts.length < places; rest = Math.floor(rest / 60))
    parts.unshift(parts.length === places - 1 ? rest : rest % 60);
  return (value < 0 && all ? "−" : "") + parts.map((part, i) => (i ? (part < 10 ? "0" : "") : "") + String(part)).join(":");
}

/** A share as per cent, two decimals at most. */
export const percent = (share: number) => `${inSign(String(+(share * 100).toFixed(2)))} %`;

/** A number without the digits that only its binary form has. */
export const sixDigits = (value: number) => Number(value.toPrecision(6));

/** A number that the hand sets as it is shown: with a true minus sign. */
export const shownToStep = (value: number, step: number) => inSign(toStep(value, step)).replace("-", "−");

const RAISED = "⁰¹²³⁴⁵⁶⁷⁸⁹";

/** A whole exponent in raised digits. */
export const raised = (exponent: number) =>
  (exponent < 0 ? "⁻" : "") + [...String(Math.abs(exponent))].map((digit) => RAISED[Number(digit)]).join("");

/** 10³ in front of the unit of a column whose cells count in thousands; nothing for ones. */
export const powerOfTen = (exponent: number) => (exponent ? `10${raised(exponent)}` : "");

const MOST_DIGITS = 5;

/** The power of ten that all ticks of an axis have in common when they are very large or very small; 0 for none. */
export function commonPower(values: number[], step: number): number {
  const largest = Math.max(...values.map(Math.abs), 0);
  if (!(largest > 0) || (largest < 1e6 && step >= 1e-4)) return 0;
  const power = Math.floor(Math.log10(largest) + 1e-9);
  // Numbers that hardly differ need their digits, not a power.
  return power - Math.floor(Math.log10(step) + 1e-9) <= MOST_DIGITS ? power : 0;
}

/** A tick without the power of ten that stands in the title. */
export function scaledTick(value: number, step: number, power: number): string {
  if (value === 0) return "0";
  const decimals = Math.max(0, power - Math.floor(Math.log10(step) + 1e-9));
  return inSign((value / 10 ** power).toFixed(decimals)).replace("-", "−");
}

/** What an axis is over, the power of ten at its ticks included: 10⁻⁷ A, (10³ m/s). */
export const overWithPower = (over: string, power: number) => {
  if (!power) return over;
  return over.startsWith("(") && over.endsWith(")") ? `(${powerOfTen(power)} ${over.slice(1, -1)})` : `${powerOfTen(power)} ${over}`.trim();
};

/** A tick as text: true minus, thin spaces, powers of ten for the very large and small. */
export function tickText(value: number, step: number): string {
  if (value === 0) return "0";
  const size = Math.abs(value);
  if (size >= 1e6 || step < 1e-4) {
    const [digits, power] = value
      .toExponential(Math.min(6, Math.max(0, Math.floor(Math.log10(size)) - Math.floor(Math.log10(step)))))
      .split("e");
    return `${inSign(digits!).replace("-", "−")}×10${raised(Number(power))}`;
  }
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  const [whole, rest] = size.toFixed(Math.max(decimals, decimalsOf(step))).split(".");
  return (value < 0 ? "−" : "") + groupDigits(whole!) + (rest ? inSign(`0.${rest}`).slice(1) : "");
}

/** Decimals that a step needs to be told, four at most beyond its first digit. */
function decimalsOf(step: number): number {
  for (let decimals = 0; decimals < 12; decimals++)
    if (Math.abs(step * 10 ** decimals - Math.round(step * 10 ** decimals)) < 1e-6) return decimals;
  return 0;
}

/** Thin spaces between thousands, from five digits on. */
export function groupDigits(digits: string | number): string {
  const text = String(digits);
  return text.length > 4 ? text.replace(/\B(?=(\d{3})+$)/g, "\u202f") : text;
}

/** 13.5 as 13:30, to the whole minute of its clock. */
export function clockTick(value: number): string {
  const minutes = Math.round(Math.abs(value) * 60);
  return `${value < 0 && minutes ? "−" : ""}${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
}
