const SIGNS = ["°", "°C", "²", "³", "⁻¹", "⁻²", "µ", "Ω", "·", "‰", "Å", "±", "Δ", "λ", "ω"];

/** Signs of units that keyboards lack; pressing one hands it on and leaves the focus where it is. */
export function SignPalette({ onSign }: { onSign: (sign: string) => void }) {
  return (
    <div
      className="flex flex-wrap justify-end gap-1"
      role="group"
      aria-label="Insert a symbol"
      onPointerDown={(event) => event.preventDefault()}
    >
      {SIGNS.map((sign) => (
        <button
          key={sign}
          type="button"
          className="grid h-6 min-w-6 place-content-center rounded border border-rule px-1 hover:border-edge"
          onClick={() => onSign(sign)}
        >
          {sign}
        </button>
      ))}
    </div>
  );
}

/** A text with a sign put where the caret of its field is. */
export function withSign(element: Element | null, text: string, sign: string): string {
  const field = element instanceof HTMLInputElement ? element : null;
  const [from, to] = [field?.selectionStart ?? text.length, field?.selectionEnd ?? text.length];
  window.requestAnimationFrame(() => {
    field?.focus();
    field?.setSelectionRange(from + sign.length, from + sign.length);
  });
  return text.slice(0, from) + sign + text.slice(to);
}
