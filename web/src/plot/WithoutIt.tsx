import { useEffect, useState } from "react";

import { useWithout } from "../study/useWithout";
import { setView } from "../study/view";

/** While it is pointed at, has the focus or is pressed, a curve without this reading stands beside it as a ghost. */
export function WithoutIt({ letter, row, called }: { letter: string | undefined; row: number; called: string }) {
  const [on, setOn] = useState(false);
  const found = useWithout(letter, on ? row : null);
  useEffect(() => {
    setView({ without: found?.curve && letter ? { letter, curve: found.curve } : null });
    return () => setView({ without: null });
  }, [found, letter]);
  return (
    <>
      <button
        className="rounded-sm border border-rule px-1 text-ink hover:border-edge"
        onPointerEnter={() => setOn(true)}
        onPointerLeave={() => setOn(false)}
        onFocus={() => setOn(true)}
        onBlur={() => setOn(false)}
      >
        {called}
      </button>{" "}
      {found && <span data-without>{found.sentence}</span>}
    </>
  );
}
