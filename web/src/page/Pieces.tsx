import { ChevronRight, Copy } from "lucide-react";
import { useState } from "react";

import type { InterpolationFit } from "../fits/kinds";
import { Sideways } from "../ui/Sideways";
import { Typeset } from "../ui/Typeset";
import { copyText } from "./copy";

const ALWAYS = 3;

/** An interpolation's equations, piece by piece. */
export function Pieces({ fit }: { fit: InterpolationFit }) {
  const [open, setOpen] = useState(false);
  const pieces = fit.pieces;
  const total = pieces.length + fit.pieces_more;
  const shown = open ? pieces : pieces.slice(0, ALWAYS);
  if (!pieces.length) return null;
  return (
    <div className="mt-2">
      <div className="flex items-center justify-between">
        <h3 className="text-note font-semibold text-mute">{total === 1 ? "Its equation" : `Its ${total} pieces`}</h3>
        <button
          className="icon-button no-print"
          aria-label="Copy the pieces"
          onClick={() => void copyText(pieces.map((piece) => piece.text).join("\n"), "The pieces")}
        >
          <Copy size={15} />
        </button>
      </div>
      <Sideways label="Pieces, wider than the page">
        <ul className="numerals grid gap-1 text-plain" aria-label="Pieces">
          {shown.map((piece) => (
            <li key={piece.text}>
              <Typeset latex={piece.latex} text={piece.text} className="font-book" />
            </li>
          ))}
        </ul>
      </Sideways>
      {total > ALWAYS && (
        <button
          aria-expanded={open}
          className="no-print -ml-1 inline-flex items-center gap-1 rounded-sm px-1 text-plain text-mute hover:text-ink"
          onClick={() => setOpen(!open)}
        >
          <ChevronRight size={14} className={open ? "rotate-90" : ""} /> {open ? "Fewer" : "All pieces"}
        </button>
      )}
      {open && fit.pieces_more > 0 && <p className="text-note text-mute">and {fit.pieces_more} more.</p>}
    </div>
  );
}
