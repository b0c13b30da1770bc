import { Undo2 } from "lucide-react";
import { useState } from "react";

import type { Card } from "../api/client";

interface BinProps {
  cards: Card[];
  onRestore: (card: Card) => void;
  onEmpty: () => void;
}

/** Studies that were put away: taken back one by one, or deleted for good all together. */
export function Bin({ cards, onRestore, onEmpty }: BinProps) {
  return (
    <details className="mt-10">
      <summary className="w-fit cursor-pointer rounded-(--radius) text-plain text-mute">Bin ({cards.length})</summary>
      <ul className="mt-2 divide-y divide-rule border-y border-rule">
        {cards.map((card) => (
          <li key={card.id} className="flex items-center justify-between gap-4 py-2">
            <span>
              {card.title} <span className="text-plain text-mute">· {card.summary}</span>
            </span>
            <button className="button" onClick={() => onRestore(card)} aria-label={`Take ${card.title} back`}>
              <Undo2 size={14} /> Restore
            </button>
          </li>
        ))}
      </ul>
      <Emptying count={cards.length} onEmpty={onEmpty} />
    </details>
  );
}

/** Asks once more before what cannot be taken back. */
function Emptying({ count, onEmpty }: { count: number; onEmpty: () => void }) {
  const [asked, setAsked] = useState(false);
  if (!asked)
    return (
      <button className="button mt-3" onClick={() => setAsked(true)}>
        Empty the bin
      </button>
    );
  return (
    <p role="alert" className="mt-3 flex flex-wrap items-center gap-3">
      {count === 1 ? "This study cannot" : `These ${count} studies cannot`} be brought back afterwards.
      <button
        className="button"
        onClick={() => {
          setAsked(false);
          onEmpty();
        }}
      >
        Delete for good
      </button>
      <button className="button" autoFocus onClick={() => setAsked(false)}>
        Keep
      </button>
    </p>
  );
}
