import { useEffect, useRef, useState } from "react";

interface Props {
  value: string;
  label: string;
  placeholder?: string;
  className?: string;
  required?: boolean;
  lines?: boolean;
  /** Most characters. */
  longest?: number;
  /** Whether it has the focus at first. */
  focused?: boolean;
  /** Whether it stands as it is. */
  fixed?: boolean;
  onCommit: (value: string) => void;
}

/** Text that is changed where it stands: Enter or leaving keeps it, Escape takes it back. */
export function EditableText({
  value,
  label,
  placeholder,
  className = "",
  required,
  lines,
  longest = lines ? 2000 : 200,
  focused,
  fixed,
  onCommit,
}: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  const shown = draft ?? value;

  // As tall as its text; where the browser does not see to that, measured again when it changes and when the field gets its width, as in a tab just shown.
  useEffect(() => {
    const element = field.current;
    if (!element || CSS.supports("field-sizing", "content")) return;
    const fit = () => {
      element.style.height = "auto";
      // The height holds the border too, which the text's own does not: without it descenders are cut.
      element.style.height = `${element.scrollHeight + element.offsetHeight - element.clientHeight}px`;
    };
    fit();
    let width = element.clientWidth;
    const observer = new ResizeObserver(() => {
      if (element.clientWidth !== width) fit();
      width = element.clientWidth;
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [shown]);

  if (fixed) return value && <p className={`whitespace-pre-line ${className}`}>{value}</p>;
  const commit = () => {
    const next = (draft ?? value).trim();
    setDraft(null);
    if ((next !== value && (next || !required)) || focused) onCommit(next);
  };
  return (
    <textarea
      ref={field}
      rows={1}
      autoFocus={focused}
      aria-label={label}
      placeholder={placeholder}
      value={shown}
      spellCheck={false}
      maxLength={longest}
      onChange={(event) => setDraft(lines ? event.target.value : event.target.value.replace(/\n/g, " "))}
      onBlur={commit}
      onKeyDown={(event) => {
        if (event.key === "Enter" && !(lines && event.shiftKey)) {
          event.preventDefault();
          event.currentTarget.blur();
        } else if (event.key === "Escape") {
          setDraft(null);
        }
      }}
      className={`-mx-1.5 block w-[calc(100%+0.75rem)] [field-sizing:content] resize-none overflow-hidden rounded-(--radius) border border-transparent bg-transparent px-1.5 pb-[3px] -mb-[3px] placeholder:text-mute print:placeholder:text-transparent hover:border-rule focus:border-edge ${className}`}
    />
  );
}
