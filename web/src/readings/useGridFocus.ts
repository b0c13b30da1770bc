import { useRef } from "react";

/** Where the focus and the caret of the active cell have to go, once that cell is drawn. `ready`: no text is being typed. */
export function useGridFocus(wanted: boolean, ready: boolean) {
  const input = useRef<HTMLInputElement>(null);
  const wants = useRef(wanted);
  const putCaret = useRef<number | null>(null);

  function settle() {
    if (putCaret.current !== null) input.current?.setSelectionRange(putCaret.current, putCaret.current);
    putCaret.current = null;
    if (!wants.current || !input.current) return;
    input.current.focus({ preventScroll: true });
    // While the table is hidden, in a narrow window, nothing can have the focus: it waits until the table is shown.
    if (document.activeElement !== input.current) return;
    wants.current = false;
    if (ready) input.current.select();
  }

  const want = () => {
    wants.current = true;
  };
  return {
    input,
    want,
    settle,
    /** Back to the active cell, after a menu over the table. */
    refocus: () => {
      want();
      settle();
    },
    caretAtEnd: () => {
      const field = input.current;
      window.requestAnimationFrame(() => field?.setSelectionRange(field.value.length, field.value.length));
    },
    /** A sign written where the caret is, as a key of the keyboard would. */
    write: (sign: string, type: (text: string) => void) => {
      const field = input.current;
      if (!field || field.readOnly) return;
      const [from, to] = [field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length];
      putCaret.current = from + sign.length;
      type(field.value.slice(0, from) + sign + field.value.slice(to));
    },
  };
}
