import { Check, X } from "lucide-react";
import { memo, type ReactNode } from "react";

import type { WorkingStep } from "../../api/client";
import { CopyMenu, equationsOf } from "./CopyMenu";
import type { Lights } from "./lights";
import { NumberGrid } from "./NumberGrid";
import { NumberLines } from "./NumberLines";
import type { Spot } from "./origins";

interface Props {
  step: WorkingStep;
  place: number;
  lights: Lights;
  onPoint: (spot: Spot | null) => void;
  onReading: (row: number) => void;
  after?: (row: number) => ReactNode;
}

/** One step: its sentence, equations, and the table or matrix. */
export const StepView = memo(function StepView({ step, place, lights, onPoint, onReading, after }: Props) {
  return (
    <div className="group/step relative grid grid-cols-[minmax(0,1fr)] gap-1 py-1.5 pr-9" data-step={step.name}>
      {step.sentence && <p className="font-book text-plain leading-snug">{step.sentence}</p>}
      {step.lines.length > 0 && <NumberLines step={step} place={place} lights={lights} onPoint={onPoint} />}
      {step.grid && (
        <div className="max-w-full pl-4">
          <NumberGrid
            grid={step.grid}
            step={place}
            name={step.sentence.replace(/:$/, "") || step.lines[0]?.text || step.grid.symbol.text || "Numbers"}
            lights={lights}
            onPoint={onPoint}
            onReading={onReading}
            after={after}
          />
        </div>
      )}
      {step.holds !== null && <Verdict holds={step.holds} />}
      <CopyStep step={step} />
    </div>
  );
});

function Verdict({ holds }: { holds: boolean }) {
  return holds ? (
    <p className="flex items-center gap-1 pl-4 text-plain font-semibold text-pine">
      <Check size={15} aria-hidden="true" /> agrees
    </p>
  ) : (
    <p className="flex items-center gap-1 pl-4 text-plain font-semibold text-amber">
      <X size={15} aria-hidden="true" /> differs
    </p>
  );
}

function CopyStep({ step }: { step: WorkingStep }) {
  const rows = step.grid?.cells.map((row) => row.map((cell) => cell?.text ?? "").join("\t")) ?? [];
  const text = [step.sentence, ...step.lines.map((line) => line.text), ...rows].filter(Boolean).join("\n");
  return (
    <CopyMenu
      what="Step"
      label={`Copy this step: ${step.sentence || step.lines[0]?.text || step.name}`}
      className="absolute top-1 right-0 opacity-0 group-hover/step:opacity-100 focus-visible:opacity-100 aria-expanded:opacity-100 pointer-coarse:opacity-100"
      text={text}
      latex={step.latex}
      sentence={step.sentence}
      equations={equationsOf(step)}
    />
  );
}
