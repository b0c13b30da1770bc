const LETTER = /^\p{L}[\p{L}\p{N}_]{0,11}$/u;

/** What is wrong with a letter for a parameter; empty where nothing is. `taken`: letters that stand for something else beside it. */
export function wrongWith(letter: string, taken: readonly string[]): string {
  if (!LETTER.test(letter)) return "A letter, with an index after an underscore if wanted.";
  return taken.includes(letter) ? `${letter} already stands for something else beside it.` : "";
}
