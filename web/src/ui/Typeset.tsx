import { useEffect, useRef } from "react";

/** A formula set by KaTeX, which comes late; until then, and for a screen reader, its text. */
export function Typeset({ latex, text, className = "" }: { latex: string; text: string; className?: string }) {
  const place = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let gone = false;
    void Promise.all([import("katex"), import("katex/dist/katex.min.css")]).then(([{ default: katex }]) => {
      if (!gone && place.current) katex.render(latex, place.current, { throwOnError: false, trust: false, strict: "ignore", output: "html" });
    });
    return () => {
      gone = true;
    };
  }, [latex]);
  return (
    <span className={className}>
      <span ref={place} aria-hidden="true">
        {text}
      </span>
      <span className="sr-only">{text}</span>
    </span>
  );
}
