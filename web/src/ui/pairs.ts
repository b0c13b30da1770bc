/** Two of a kind, such as both ends of a stretch. */
export type Pair<Value> = [Value, Value];

/** The first two of a list; nothing where it has fewer. */
export function pairOf<Value>([a, b]: readonly Value[] = []): Pair<Value> | undefined {
  return a === undefined || b === undefined ? undefined : [a, b];
}

/** The same done to both of a pair. */
export const both = <From, To>([a, b]: readonly [From, From], change: (one: From) => To): Pair<To> => [change(a), change(b)];

/** Two numbers in rising order. */
export const rising = ([a, b]: readonly [number, number]): Pair<number> => (a < b ? [a, b] : [b, a]);
