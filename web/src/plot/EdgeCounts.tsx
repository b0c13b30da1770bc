import type { Beyond } from "./edges";
import { groupDigits } from "../ui/numbers";
import { keysOf } from "../ui/keys";
import type { Areas } from "./areas";

const WORDS = {
  left: { arrow: "←", place: "left-[72px] top-1/3", name: "to the left of" },
  right: { arrow: "→", place: "right-3 top-1/3", name: "to the right of" },
  above: { arrow: "↑", place: "left-1/2 top-2", name: "above" },
  below: { arrow: "↓", place: "left-1/2", name: "below" },
} as const;

interface Props {
  beyond: Beyond;
  areas: Areas;
  onBringIn: (edge: keyof Beyond) => void;
}

/** At each edge with readings beyond it: how many, and one press to bring them in. */
export function EdgeCounts({ beyond, areas, onBringIn }: Props) {
  return (
    <>
      {keysOf(WORDS)
        .filter((edge) => beyond[edge] > 0)
        .map((edge) => (
          <button
            key={edge}
            className={`no-print absolute z-10 h-[24px] rounded-full border border-amber bg-amber-well px-2.5 text-note text-amber ${WORDS[edge].place}`}
            style={edge === "below" ? { bottom: areas.height - areas.floor + 20 } : undefined}
            aria-label={`${beyond[edge]} reading${beyond[edge] === 1 ? "" : "s"} ${WORDS[edge].name} the view: show`}
            onClick={() => onBringIn(edge)}
          >
            {WORDS[edge].arrow} {groupDigits(beyond[edge])} outside view
          </button>
        ))}
    </>
  );
}
