/** A quantity as an axis names it: `v / (m/s)`; `over` as the server has it. */
export const quantity = (symbol: string, over: string) => (over ? `${symbol} / ${over}` : symbol);
