import { Crosshair, X } from "lucide-react";

import { useNaming } from "../study/context";
import { useNextPlace } from "../study/useNextPlace";
import { measureFor, type Measuring, setView } from "../study/view";
import { WholeNumber } from "../ui/WholeNumber";

/** Where to measure next for one thing, or one of several, while that is asked; the plot shows it along its x axis. */
export function NextPlace({ of }: { of: string }) {
  const { measuring, found } = useNextPlace();
  const naming = useNaming();
  if (!measuring || (measuring.of !== of && !measuring.of.startsWith(`${of}:`))) return null;
  const put = (part: Partial<Measuring>) => setView({ measuring: { ...measuring, ...part } });
  return (
    <section aria-label="Where to measure next" className="no-print mt-1 grid gap-1.5 border border-rule bg-well px-2 py-1.5 text-note">
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="font-semibold">Where to measure next</h3>
        <button className="icon-button" aria-label="Close where to measure next" onClick={() => setView({ measuring: null })}>
          <X size={13} />
        </button>
      </div>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-mute">
        {naming.x} from
        <End label="Least x that can be measured" value={measuring.low} onValue={(low) => put({ low })} />
        to
        <End label="Greatest x that can be measured" value={measuring.high} onValue={(high) => put({ high })} />
        {naming.x_unit}
        {!of.startsWith("apart") && (
          <WholeNumber
            label="narrowed to"
            after="% of its uncertainty"
            name="Share of the uncertainty, in per cent"
            value={measuring.share}
            low={1}
            high={99}
            onPut={(share) => put({ share })}
          />
        )}
      </div>
      <div role="status" className="grid gap-1 font-book text-plain leading-snug">
        {found?.problem ? (
          <p className="text-amber">{found.problem}</p>
        ) : (
          found?.sentences?.map((sentence) => <p key={sentence}>{sentence}</p>)
        )}
      </div>
    </section>
  );
}

function End({ label, value, onValue }: { label: string; value: string; onValue: (value: string) => void }) {
  return (
    <input
      aria-label={label}
      className="field !h-[24px] w-16 px-1 text-note"
      placeholder="as now"
      value={value}
      maxLength={60}
      onChange={(event) => onValue(event.target.value)}
    />
  );
}

/** Asks for it from the form of a parameter. */
export function NextPlaceButton({ of, onDone }: { of: string; onDone: () => void }) {
  return (
    <button
      type="button"
      className="mt-2 flex items-center gap-1.5 rounded-sm text-plain text-mute hover:text-ink"
      onClick={() => {
        onDone();
        measureFor(of);
      }}
    >
      <Crosshair size={14} /> Where to measure next
    </button>
  );
}
