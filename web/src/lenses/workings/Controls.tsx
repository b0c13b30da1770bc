import { ToggleGroup } from "radix-ui";

import type { Followable } from "../../api/client";
import type { Following } from "../../study/view";
import { WholeNumber } from "../../ui/WholeNumber";
import { GivenNumber } from "./GivenNumber";

interface Props {
  found: Followable[];
  of: Followable;
  what: Followable["whats"][number];
  following: Following;
  x: string;
  y: string;
  put: (part: Partial<Following>) => void;
}

const KINDS: [Followable["kind"], string][] = [
  ["fit", "Fits of this study"],
  ["answer", "Answers"],
  ["form", "Forms, before they are fitted"],
];

/** What is followed, and how its numbers are written. */
export function Controls({ found, of, what, following, x, y, put }: Props) {
  return (
    <div className="no-print flex flex-wrap items-center gap-x-3 gap-y-1.5 border border-rule bg-sheet px-3 py-2 text-plain">
      <label className="flex min-w-0 grow basis-40 items-center gap-1.5 text-mute">
        Follow
        <select
          className="field w-full min-w-0"
          aria-label="What to follow"
          value={of.key}
          onChange={(event) => put({ of: event.target.value })}
        >
          {KINDS.map(([kind, word]) => {
            const some = found.filter((one) => one.kind === kind);
            return (
              some.length > 0 && (
                <optgroup key={kind} label={word}>
                  {some.map((one) => (
                    <option key={one.key} value={one.key}>
                      {one.name}
                    </option>
                  ))}
                </optgroup>
              )
            );
          })}
        </select>
      </label>
      <select
        className="field min-w-0 grow basis-40"
        aria-label="Working"
        value={what.what}
        onChange={(event) => put({ what: event.target.value })}
      >
        {of.whats.map((one) => (
          <option key={one.what} value={one.what}>
            {one.title}
          </option>
        ))}
      </select>
      <span className="basis-full" />
      {(what.needs === "x" || what.asks_x) && (
        <GivenNumber label={`at ${x} =`} name={`${x} of the working`} value={following.x} onPut={(value) => put({ x: value })} />
      )}
      {what.needs === "y" && (
        <GivenNumber label={`for ${y} =`} name={`${y} of the working`} value={following.y} onPut={(value) => put({ y: value })} />
      )}
      <Two
        label="How numbers are written"
        value={following.form}
        words={{ fractions: "Fractions", decimals: "Decimals" }}
        onPick={(form) => put({ form: form === "decimals" ? "decimals" : "fractions" })}
      />
      {following.form === "decimals" && (
        <WholeNumber
          label=""
          after="places"
          name="Decimal places"
          value={following.places}
          low={0}
          high={12}
          onPut={(places) => put({ places })}
        />
      )}
      <Two
        label="How steps are shown"
        value={following.covered ? "covered" : "whole"}
        words={{ whole: "Whole", covered: "Step by step" }}
        onPick={(way) => put({ covered: way === "covered" })}
      />
    </div>
  );
}

function Two({
  label,
  value,
  words,
  onPick,
}: {
  label: string;
  value: string;
  words: Record<string, string>;
  onPick: (value: string) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      className="flex rounded-(--radius) border border-rule p-px"
      value={value}
      onValueChange={(next) => next && onPick(next)}
    >
      {Object.entries(words).map(([name, word]) => (
        <ToggleGroup.Item
          key={name}
          value={name}
          className="rounded-(--radius) px-2 py-0.5 text-mute hover:text-ink aria-checked:bg-well aria-checked:font-semibold aria-checked:text-ink"
        >
          {word}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
