interface PickProps<Value> {
  label: string;
  value: Value;
  choices: { value: Value; word: string }[];
  onPick: (value: Value) => void;
}

/** One of several, in a line of text. */
export function Pick<Value extends string | number | boolean>({ label, value, choices, onPick }: PickProps<Value>) {
  return (
    <select
      className="inline-choice"
      aria-label={label}
      value={String(value)}
      onChange={(event) => {
        const picked = choices.find((choice) => String(choice.value) === event.target.value);
        if (picked) onPick(picked.value);
      }}
    >
      {choices.map((choice) => (
        <option key={String(choice.value)} value={String(choice.value)}>
          {choice.word}
        </option>
      ))}
    </select>
  );
}
