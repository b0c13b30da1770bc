import { ChevronDown, ChevronUp, X } from "lucide-react";
import { useMemo, useState } from "react";

import { useStudy } from "../study/context";
import { type Place, select } from "../study/view";
import { readNumber } from "../ui/numbers";

/** Finds a number or a text in the table and goes from one place to the next. */
export function FindBar({ onClose }: { onClose: () => void }) {
  const { columns, row_count: rows } = useStudy();
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const places = useMemo(() => {
    const wanted = text.trim().toLowerCase();
    const number = readNumber(wanted);
    const found: Place[] = [];
    if (!wanted) return found;
    for (let row = 0; row < rows; row++) {
      columns.forEach((column, col) => {
        const cell = column.cells[row] ?? "";
        if (cell && (cell.toLowerCase().includes(wanted) || (number !== null && readNumber(cell) === number))) found.push({ row, col });
      });
    }
    return found;
  }, [text, columns, rows]);
  const go = (step: number) => {
    if (!places.length) return;
    const next = (at + step + places.length) % places.length;
    setAt(next);
    select(places[next]!);
  };
  return (
    <form
      role="search"
      aria-label="Find a value"
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        go(1);
      }}
      onKeyDown={(event) => event.key === "Escape" && onClose()}
    >
      <input
        className="field min-w-0 grow"
        aria-label="What to find"
        placeholder="number or text"
        autoFocus
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setAt(-1);
        }}
      />
      <span role="status" className="numerals text-note whitespace-nowrap text-mute">
        {text.trim() ? (places.length ? `${Math.max(at, 0) + 1} of ${places.length}` : "no match") : ""}
      </span>
      <button type="button" className="icon-button" aria-label="Previous match" onClick={() => go(-1)}>
        <ChevronUp size={15} />
      </button>
      <button className="icon-button" aria-label="Next match">
        <ChevronDown size={15} />
      </button>
      <button type="button" className="icon-button" aria-label="Close" onClick={onClose}>
        <X size={15} />
      </button>
    </form>
  );
}
