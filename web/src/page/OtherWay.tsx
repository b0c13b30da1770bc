import type { FittedFit } from "../fits/kinds";
import { useNaming } from "../study/context";
import { Symbol } from "../ui/Symbol";

/** What least squares in y gives, beside the fit in logarithms. */
export function OtherWay({ way }: { way: NonNullable<FittedFit["other_way"]> }) {
  const naming = useNaming();
  return (
    <div className="mt-2 border-l-2 border-rule pl-3 text-plain">
      <p className="text-mute">
        The same model by least squares in <Symbol text={naming.y} /> instead:
      </p>
      <p className="numerals font-book">
        {way.parameters.map((one) => (
          <span key={one.name} className="mr-3 whitespace-nowrap" title={`In full: ${one.full}`}>
            <Symbol text={one.name} /> = {one.text}
          </span>
        ))}
      </p>
      <p className="numerals text-mute">
        R² <span className="text-ink">{way.r_squared}</span> · typical miss <span className="text-ink">{way.typical_miss}</span>
      </p>
    </div>
  );
}
