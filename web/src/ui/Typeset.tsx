import { useEffect, useRef } from "react";

/** Of the commands that reach outside a formula only names for its numbers, by which they are found on the page. */
const trust = ({ command }: { command: string }) => command === "\\htmlData";
const WRITING = { throwOnError: false, trust, strict: "ignore" } as const;

/** KaTeX and its styles, which come late. Asked for when a study is opened, so that they are there without a connection. */
export const loadKatex = () => Promise.all([import("katex"), import("katex/dist/katex.min.css")]).then(([{ default: katex }]) => katex);

/** A formula as MathML (W3C). */
export async function mathmlOf(latex: string): Promise<string> {
  const katex = await loadKatex();
  const written = katex.renderToString(latex, { ...WRITING, output: "mathml", displayMode: true });
  return /<math[\s\S]*<\/math>/.exec(written)?.[0] ?? "";
}

/** A formula set by KaTeX for the eye and as MathML for a screen reader; until that is there, its text. */
export function Typeset({ latex, text, className = "" }: { latex: string; text: string; className?: string }) {
  const place = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let gone = false;
    loadKatex()
      .then((katex) => {
        if (!gone && place.current) katex.render(latex, place.current, { ...WRITING, output: "htmlAndMathml" });
      })
      .catch(() => {
        // Out of reach: the formula stands there as text.
      });
    return () => {
      gone = true;
    };
    // Another text replaces what was set, even where it is set the same: a space more in a formula.
  }, [latex, text]);
  return (
    <span ref={place} className={`relative ${className}`}>
      {text}
    </span>
  );
}
