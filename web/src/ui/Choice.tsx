import { Select, type Words } from "./Select";

interface Props<Value> {
  label: string;
  value: Value;
  words: Words<Value>;
  onPick: (value: Value) => void;
}

/** A labelled choice among a few words. */
export function Choice<Value extends string | number | boolean>({ label, ...rest }: Props<Value>) {
  return (
    <label className="flex items-center gap-2">
      {label}
      <Select className="field max-w-52" {...rest} />
    </label>
  );
}
