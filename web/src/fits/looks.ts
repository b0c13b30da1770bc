/** How each fit is told apart: by colour and by dash, never by colour alone. */
const LOOKS: Record<string, { color: string; dash?: string }> = {
  A: { color: "var(--color-pine)" },
  B: { color: "var(--color-copper)", dash: "9 4" },
  C: { color: "var(--color-iris)", dash: "14 4 3 4" },
  D: { color: "var(--color-plum)", dash: "5 3" },
  E: { color: "var(--color-slate)", dash: "12 3 3 3 3 3" },
  F: { color: "var(--color-umber)", dash: "18 5" },
};

export const lookOf = (letter: string) => LOOKS[letter] ?? LOOKS.A!;

/** The CSS variable of a fit's colour, for what is drawn on a canvas. */
export const inkOf = (letter: string) => lookOf(letter).color.slice("var(".length, -1);
