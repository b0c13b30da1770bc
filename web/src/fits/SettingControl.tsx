import { Popover } from "radix-ui";

import type { Setting } from "../api/client";
import { inField, readNumber } from "../ui/numbers";
import { Select } from "../ui/Select";

interface SettingProps {
  setting: Setting;
  letter: string;
  onSet: (value: Setting["value"]) => void;
}

/** An option of a model as its family declares it. */
export function SettingControl({ setting, letter, onSet }: SettingProps) {
  const { value } = setting;
  if (Array.isArray(value)) return <Several setting={setting} values={value} letter={letter} onSet={onSet} />;
  if (setting.kind === "number") return <NumberField label={setting.label} value={Number(value)} onSet={onSet} />;
  const words = setting.choices.map((choice) => [choice.value, choice.word] as const);
  return <Select className="inline-choice" aria-label={setting.label} value={value} words={words} onPick={onSet} />;
}

/** Several of the choices, the last of which stays. */
function Several({ setting, values, letter, onSet }: SettingProps & { values: number[] }) {
  const { label, choices } = setting;
  const all = choices.map((choice) => Number(choice.value));
  const word = label.toLowerCase();
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button className="inline-choice" aria-label={`${label} of fit ${letter}`}>
          {values.length === all.length ? `all ${word}` : `${values.length} of ${all.length} ${word}`}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} collisionPadding={8} className="floating grid w-48 gap-1" aria-label={label}>
          {[...choices].reverse().map((choice) => {
            const one = Number(choice.value);
            return (
              <label key={one} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-(--color-pine)"
                  checked={values.includes(one)}
                  disabled={one === all.at(-1)}
                  onChange={(event) => onSet(all.filter((other) => (other === one ? event.target.checked : values.includes(other))))}
                />
                {choice.word}
              </label>
            );
          })}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function NumberField({ label, value, onSet }: { label: string; value: number; onSet: (value: number) => void }) {
  return (
    <label className="flex items-center gap-1">
      {label.toLowerCase()}
      <input
        key={String(value)}
        className="field numerals !h-[24px] w-16 text-right"
        defaultValue={inField(value)}
        onBlur={(event) => {
          const typed = readNumber(event.target.value);
          if (typed === null) event.target.value = inField(value);
          else if (typed !== value) onSet(typed);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}
