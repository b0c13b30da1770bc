import { useEffect } from "react";

import { setView } from "../study/view";

/** A table pasted outside a field is looked through and taken in; fields and cells keep their own pasting. */
export function usePasteAnywhere() {
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const target = event.target;
      if (event.defaultPrevented || target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return;
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (!text.trim()) return;
      event.preventDefault();
      setView({ pasted: text });
    };
    document.addEventListener("paste", onPaste);
    return () => document.removeEventListener("paste", onPaste);
  }, []);
}
