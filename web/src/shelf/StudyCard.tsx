import { Copy, EllipsisVertical, Pencil, Trash2 } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useRef, useState } from "react";

import type { Card } from "../api/client";
import { navigate } from "../route";
import { Typeset } from "../ui/Typeset";
import { Thumbnail } from "./Thumbnail";
import { Menu } from "../ui/Menu";

interface Props {
  card: Card;
  onRename: (title: string) => void;
  onDuplicate: () => void;
  onDelete: () => void;
}

const changed = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

export function StudyCard({ card, onRename, onDuplicate, onDelete }: Props) {
  const [renaming, setRenaming] = useState(false);
  const path = `/study/${card.id}`;
  return (
    <li className="relative flex flex-col border border-rule bg-sheet focus-within:border-edge hover:border-edge">
      <div className="border-b border-rule px-3 pt-3">
        <Thumbnail plot={card.thumbnail} id={card.id} />
      </div>
      <div className="flex grow flex-col gap-1 p-3.5">
        {renaming ? (
          <Rename
            title={card.title}
            onDone={(title) => {
              setRenaming(false);
              if (title && title !== card.title) onRename(title);
            }}
          />
        ) : (
          <h2 className="pr-7 font-book text-lead leading-snug font-semibold">
            <a
              href={path}
              className="after:absolute after:inset-0 focus-visible:outline-none focus-visible:after:outline-2 focus-visible:after:outline-pine"
              onClick={(event) => {
                if (event.metaKey || event.ctrlKey || event.shiftKey) return;
                event.preventDefault();
                navigate(path);
              }}
            >
              {card.title}
            </a>
          </h2>
        )}
        {card.question && <p className="line-clamp-2 font-book text-plain text-mute italic">{card.question}</p>}
        <p className="numerals mt-auto pt-2 text-note text-mute">
          {card.summary}
          {card.equation && (
            <>
              {" · "}
              {card.equation_latex ? (
                <Typeset latex={card.equation_latex} text={card.equation} className="text-ink" />
              ) : (
                <span className="text-ink">{card.equation}</span>
              )}
            </>
          )}
        </p>
        <p className="numerals text-note text-mute">changed {changed.format(new Date(card.changed))}</p>
      </div>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger asChild>
          <button className="icon-button absolute right-2 bottom-2.5 z-10" aria-label={`More for ${card.title}`}>
            <EllipsisVertical size={16} />
          </button>
        </DropdownMenu.Trigger>
        <Menu onCloseAutoFocus={(event) => renaming && event.preventDefault()}>
          <DropdownMenu.Item className="menu-item" onSelect={() => setRenaming(true)}>
            <Pencil size={14} /> Rename
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item" onSelect={onDuplicate}>
            <Copy size={14} /> Duplicate
          </DropdownMenu.Item>
          <DropdownMenu.Item className="menu-item" onSelect={onDelete}>
            <Trash2 size={14} /> Delete
          </DropdownMenu.Item>
        </Menu>
      </DropdownMenu.Root>
    </li>
  );
}

function Rename({ title, onDone }: { title: string; onDone: (title: string | null) => void }) {
  const field = useRef<HTMLInputElement>(null);
  const done = useRef(false);
  useEffect(() => field.current?.select(), []);
  const finish = (value: string | null) => {
    if (done.current) return;
    done.current = true;
    onDone(value?.trim() || null);
  };
  return (
    <input
      ref={field}
      autoFocus
      defaultValue={title}
      maxLength={200}
      aria-label="Title of the study"
      className="field relative z-10 font-book text-lead"
      onBlur={(event) => finish(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === "Enter") finish(event.currentTarget.value);
        if (event.key === "Escape") finish(null);
      }}
    />
  );
}
