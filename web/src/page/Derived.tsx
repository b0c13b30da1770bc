import { useState } from "react";

import type { ComputedFit, OwnQuantityWanted } from "../fits/kinds";
import { useChange, useLooking } from "../study/context";
import { OwnQuantity } from "./OwnQuantity";

const MOST = 12;

/** What follows from the parameters: half-life, period, vertex and the like, and quantities of one's own. */
export function Derived({ fit }: { fit: ComputedFit }) {
  const change = useChange();
  const looking = useLooking();
  const [adding, setAdding] = useState(false);
  const own = fit.follows ?? [];
  const put = (follows: OwnQuantityWanted[]) => change({ kind: "set_fit", letter: fit.letter, follows });
  const built = fit.derived.filter((one) => !one.formula);
  const found = fit.derived.filter((one) => one.formula);
  return (
    <>
      {built.length > 0 && (
        <dl className="numerals mt-1 grid grid-cols-[1fr_auto] gap-x-3 border-t border-rule/60 pt-1 text-plain">
          {built.map((quantity) => (
            <div key={quantity.name} className="contents">
              <dt className="font-book text-mute">{quantity.name}</dt>
              <dd className="text-right" title={`In full: ${quantity.full}`}>
                {quantity.text}
              </dd>
            </div>
          ))}
        </dl>
      )}
      {own.length > 0 && (
        <ul aria-label={`What follows from fit ${fit.letter}`} className="mt-1 grid gap-1 border-t border-rule/60 pt-1">
          {own.map((wanted, place) => (
            <OwnQuantity
              key={`${place} ${wanted.name} ${wanted.formula}`}
              of={`own:${fit.letter}:${place}`}
              wanted={wanted}
              found={found[place]}
              onPut={(next) => put(own.map((one, at) => (at === place ? next : one)))}
              onRemove={() => put(own.filter((_, at) => at !== place))}
            />
          ))}
        </ul>
      )}
      {adding ? (
        <OwnQuantity
          of=""
          wanted={{ name: "", formula: "" }}
          found={undefined}
          onPut={(next) => {
            setAdding(false);
            put([...own, next]);
          }}
          onRemove={() => setAdding(false)}
        />
      ) : (
        own.length < MOST &&
        !looking && (
          <button
            className="no-print mt-0.5 justify-self-start rounded-sm text-note text-mute underline decoration-dotted underline-offset-2 hover:text-ink"
            onClick={() => setAdding(true)}
          >
            add a quantity that follows
          </button>
        )
      )}
    </>
  );
}
