import { useEffect } from "react";

import { isPicture } from "../picture/openPicture";
import type { Incoming } from "../study/view";

/** A table pasted outside a field is looked through and taken in, a picture laid under the plot; fields and cells keep their own pasting. */
export function usePasteAnywhere(take: (incoming: Incoming) => void, lay: (file: File) => Promise<void>) {
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const target = event.target;
      if (event.defaultPrevented || target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return;
      const file = [...(event.clipboardData?.files ?? [])].find(isPicture);
      if (file) {
        event.preventDefault();
        return void lay(file);
      }
      const text = event.clipboardData?.getData("text/plain") ?? "";
      if (!text.trim()) return;
      event.preventDefault();
      take({ text });
    };
    document.addEventListener("paste", onPaste);
    return () => document.removeEventListener("paste", onPaste);
  }, [take, lay]);
}
