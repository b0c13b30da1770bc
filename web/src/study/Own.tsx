import type { ReactNode } from "react";

import { useLooking } from "./context";

/** What only the owner of a study can do: whoever looks at it by a link sees nothing of it. */
export function Own({ children }: { children: ReactNode }) {
  return useLooking() ? null : children;
}
