import { memo } from "react";

import { Maximize, ZoomIn, ZoomOut } from "lucide-react";

import { LensTabs } from "../lenses/LensTabs";
import { Own } from "../study/Own";
import { setView, useView } from "../study/view";
import { Hint } from "../ui/Hint";
import { PlotSettingsForm } from "./PlotSettingsForm";
import { PlotTools } from "./tools";

/** Above the plot: the lenses, the tools, the view, and how it is drawn. */
export const PlotBar = memo(function PlotBar({ onZoom }: { onZoom: (factor: number) => void }) {
  const moved = useView((view) => view.domain !== null);
  return (
    <div className="no-print @container">
      <div className="flex min-h-[28px] flex-wrap items-center gap-y-0.5 @max-[40rem]:[&_.icon-button]:size-6">
        <LensTabs />
        <div className="ml-auto flex items-center">
          <PlotTools />
          <span className="mx-0.5 h-5 w-px bg-rule" />
          <div role="group" aria-label="View of the plot" className="flex items-center">
            <Hint text="Zoom in (+)">
              <button className="icon-button" aria-label="Zoom in" onClick={() => onZoom(1.4)}>
                <ZoomIn size={16} />
              </button>
            </Hint>
            <Hint text="Zoom out (−)">
              <button className="icon-button" aria-label="Zoom out" onClick={() => onZoom(1 / 1.4)}>
                <ZoomOut size={16} />
              </button>
            </Hint>
            <Hint text="Back to all readings, or to the limits that were typed (0)">
              <button className="icon-button" aria-label="All readings" disabled={!moved} onClick={() => setView({ domain: null })}>
                <Maximize size={15} />
              </button>
            </Hint>
            <Own>
              <PlotSettingsForm />
            </Own>
          </div>
        </div>
      </div>
    </div>
  );
});
