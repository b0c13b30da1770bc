import { useEffect } from "react";

/** N uncovers the next line, wherever the focus is, except where something is typed or chosen. */
export function useNextKey(active: boolean, next: () => void) {
  useEffect(() => {
    if (!active) return;
    const onKeyDown = (event: KeyboardEvent) => {
      const target = event.target instanceof Element ? event.target : document.body;
      if (target.closest('input, textarea, select, [role="grid"], [role="menu"], [role="dialog"]')) return;
      if (event.key.toLowerCase() === "n" && !event.ctrlKey && !event.metaKey && !event.altKey) next();
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, [active, next]);
}
