/** A labelled choice among a few words. */
export function Choice<Name extends string>(props: {
  label: string;
  value: Name;
  words: Record<Name, string>;
  onChange: (value: Name) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      {props.label}
      <select className="field max-w-52" value={props.value} onChange={(event) => props.onChange(event.target.value as Name)}>
        {(Object.keys(props.words) as Name[]).map((name) => (
          <option key={name} value={name}>
            {props.words[name]}
          </option>
        ))}
      </select>
    </label>
  );
}
