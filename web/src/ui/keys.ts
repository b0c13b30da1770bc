/** The names of an object's own properties, as its type has them: for objects that are written out as they are typed. */
// eslint-disable-next-line @typescript-eslint/consistent-type-assertions -- an object written out has no other names than its type
export const keysOf = <Shape extends object>(shape: Shape) => Object.keys(shape) as (keyof Shape & string)[];

/** The words of an object as pairs, in its order. */
export const wordsOf = <Name extends string>(words: Record<Name, string>) =>
  keysOf(words).map((name): readonly [Name, string] => [name, words[name]]);
