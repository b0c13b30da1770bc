import type { ComponentProps, CSSProperties } from "react";

declare module "react" {
  interface CSSProperties {
    "--letters"?: number;
  }
}

/** As wide as the word that is chosen, also where a browser cannot size a field by its content. */
export const widthOf = (word: string): CSSProperties => ({ "--letters": word.length });

/** What can be picked, each with the word that stands for it. */
export type Words<Value> = readonly (readonly [Value, string])[];

interface Props<Value> extends Omit<ComponentProps<"select">, "value" | "onChange" | "children"> {
  value: Value;
  words: Words<Value>;
  onPick: (value: Value) => void;
}

/** One of several words. */
export function Select<Value extends string | number | boolean>({ value, words, onPick, className = "field", ...rest }: Props<Value>) {
  return (
    <select
      {...rest}
      className={className}
      style={widthOf(words.find(([one]) => one === value)?.[1] ?? "")}
      value={String(value)}
      onChange={(event) => onPick(words[event.target.selectedIndex]![0])}
    >
      {words.map(([one, word]) => (
        <option key={String(one)} value={String(one)}>
          {word}
        </option>
      ))}
    </select>
  );
}
