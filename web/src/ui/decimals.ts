/** A number that the hand sets, with the decimals of its step. */
export function toStep(value: number, step: number): string {
  const decimals = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  if (decimals > 12 || Math.abs(value) >= 1e12) return String(Number(value.toPrecision(6)));
  return (Math.round(value / step) * step).toFixed(decimals).replace(/^-(0(\.0*)?)$/, "$1");
}

/** A number in a field, every digit of it, with a true minus sign; where a clock shows it, as that does: 13:30. */
export const inField = (value: number, clock = "") => (clock ? clockText(value, clock) : String(value).replaceAll("-", "−"));

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
