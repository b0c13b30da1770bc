import { useEffect } from "react";
import { create } from "zustand";

import type { Analysis } from "../api/client";
import { type DrawnFit, isDrawn } from "./kinds";

/** The last fit of each letter that held, so that it stays in view while a mistake is mended. */
const useKept = create<{ fits: Record<string, DrawnFit> }>(() => ({ fits: {} }));

/** Remember every fit of an analysis that holds; a letter that is gone is forgotten. */
export function useKeepLastGood(analysis: Analysis) {
  useEffect(() => {
    const before = useKept.getState().fits;
    const fits: Record<string, DrawnFit> = {};
    for (const fit of analysis.fits) {
      const held = isDrawn(fit) ? fit : before[fit.letter];
      if (held) fits[fit.letter] = held;
    }
    useKept.setState({ fits });
  }, [analysis]);
  useEffect(() => () => useKept.setState({ fits: {} }), []);
}

/** The last fit of this letter that held, if any. */
export const useLastGood = (letter: string): DrawnFit | undefined => useKept((kept) => kept.fits[letter]);
export const useAllLastGood = () => useKept((kept) => kept.fits);
