import type { ColumnLook } from "../api/client";

interface Props {
  look: ColumnLook | null;
  unit: string;
  onUnit: (unit: string) => void;
}

/** The unit that a formula has from its sources, and what is odd about it. */
export function FromSources({ look, unit, onUnit }: Props) {
  const proposed = look?.formula.unit ?? "";
  const remark = look?.formula.unit_remark ?? "";
  if (!remark && (!proposed || proposed === unit.trim())) return null;
  return (
    <div aria-live="polite" className="grid gap-1 text-note">
      {remark && <p className="text-amber">{remark}</p>}
      {proposed && proposed !== unit.trim() && (
        <p className="text-mute">
          Unit from its sources: {proposed}{" "}
          <button type="button" className="underline" onClick={() => onUnit(proposed)}>
            Take {proposed}
          </button>
        </p>
      )}
    </div>
  );
}
