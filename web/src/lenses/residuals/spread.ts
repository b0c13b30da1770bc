/** The stretch of some values with room, about zero where that is wanted. */
export function spread(values: (number | null)[], aboutZero = false): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const value of values) {
    if (value === null) continue;
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  if (!(low <= high)) return [-1, 1];
  if (aboutZero) [low, high] = [-Math.max(-low, high), Math.max(-low, high)];
  const room = (high - low) * 0.08 || Math.abs(high) * 0.1 || 1;
  return [low - room, high + room];
}
