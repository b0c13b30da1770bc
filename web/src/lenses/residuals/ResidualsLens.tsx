import { useState } from "react";

import { useAnalysis } from "../../study/context";
import { type ComputedFit, isComputed } from "../../fits/kinds";
import { ResidualViews } from "./ResidualViews";
import { LensTabs } from "../LensTabs";

/** Five views of the residuals of one fit or of two side by side, what they say in words, and the table behind them. */
export function ResidualsLens() {
  const { fits } = useAnalysis();
  const fitted = fits.filter(isComputed);
  const [wanted, setWanted] = useState<string | null>(null);
  const [beside, setBeside] = useState("");
  const fit = fitted.find((one) => one.letter === wanted) ?? fitted[0];
  const other = fitted.find((one) => one.letter === beside && one !== fit);
  return (
    <section aria-label="Residuals" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
        {fitted.length > 1 && (
          <>
            <FitChoice label="of fit" name="Residuals of fit" value={fit?.letter ?? ""} fits={fitted} onPick={setWanted} />
            <FitChoice
              label="beside"
              name="Beside the residuals of fit"
              value={other?.letter ?? ""}
              fits={fitted.filter((one) => one !== fit)}
              none="no other"
              onPick={setBeside}
            />
          </>
        )}
      </div>
      <div className="min-h-0 grow overflow-auto" tabIndex={0} role="region" aria-label="Views of the residuals">
        {!fit && (
          <p className="p-6 text-center text-mute">
            There are no residuals without a fit.{" "}
            {fits.some((one) => one.kind === "interpolation") && "An interpolation has none: it meets every reading."}
          </p>
        )}
        {fit && (
          <div className={other ? "grid gap-3 [grid-template-columns:repeat(auto-fit,minmax(min(100%,16rem),1fr))]" : ""}>
            <ResidualViews fit={fit} titled={other !== undefined} />
            {other && <ResidualViews fit={other} titled />}
          </div>
        )}
      </div>
    </section>
  );
}

function FitChoice({
  label,
  name,
  value,
  fits,
  none,
  onPick,
}: {
  label: string;
  name: string;
  value: string;
  fits: ComputedFit[];
  none?: string;
  onPick: (letter: string) => void;
}) {
  return (
    <label className="flex items-center gap-1.5 text-plain text-mute">
      {label}
      <select className="field" aria-label={name} value={value} onChange={(event) => onPick(event.target.value)}>
        {none && <option value="">{none}</option>}
        {fits.map((one) => (
          <option key={one.letter} value={one.letter}>
            {one.letter}, {one.label || one.name}
          </option>
        ))}
      </select>
    </label>
  );
}
