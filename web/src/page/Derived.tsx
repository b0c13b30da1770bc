import type { ComputedFit } from "../fits/kinds";

/** What follows from the parameters: half-life, period, vertex and the like. */
export function Derived({ fit }: { fit: ComputedFit }) {
  if (!fit.derived.length) return null;
  return (
    <dl className="numerals mt-1 grid grid-cols-[1fr_auto] gap-x-3 border-t border-rule/60 pt-1 text-plain">
      {fit.derived.map((quantity) => (
        <div key={quantity.name} className="contents">
          <dt className="font-book text-mute">{quantity.name}</dt>
          <dd className="text-right" title={`In full: ${quantity.full}`}>
            {quantity.text}
          </dd>
        </div>
      ))}
    </dl>
  );
}
