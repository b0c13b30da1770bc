/** A quantity as an axis names it: `h / m`. */
export const withUnit = (symbol: string, unit: string) => (unit ? `${symbol} / ${unit}` : symbol);
