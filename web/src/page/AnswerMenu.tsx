import { ArrowDown, ArrowUp, Crosshair, Ellipsis, ListOrdered, Pencil, Ruler } from "lucide-react";
import { DropdownMenu } from "radix-ui";

import type { Answer } from "../api/client";
import { useChange } from "../study/context";
import { followWorkings, measureFor } from "../study/view";
import { Menu } from "../ui/Menu";

interface Props {
  answer: Answer;
  place: number;
  last: boolean;
  onRename: () => void;
  onConvert: () => void;
}

/** What else can be done with a kept answer. */
export function AnswerMenu({ answer, place, last, onRename, onConvert }: Props) {
  const change = useChange();
  const { key } = answer;
  const single = (answer.direction === "y_at_x" || answer.direction === "x_at_y") && (answer.rows ?? []).length <= 1;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button className="icon-button no-print" aria-label={`More for the answer for ${answer.asked}`}>
          <Ellipsis size={15} />
        </button>
      </DropdownMenu.Trigger>
      <Menu>
        <DropdownMenu.Item className="menu-item" onSelect={onRename}>
          <Pencil size={15} /> Rename
        </DropdownMenu.Item>
        {single && (
          <DropdownMenu.Item className="menu-item" onSelect={() => followWorkings(`answer:${key}`)}>
            <ListOrdered size={15} /> Show the workings
          </DropdownMenu.Item>
        )}
        {single && (
          <DropdownMenu.Item className="menu-item" onSelect={() => measureFor(`answer:${key}`)}>
            <Crosshair size={15} /> Where to measure next
          </DropdownMenu.Item>
        )}
        {answer.own_unit && (
          <DropdownMenu.Item className="menu-item" onSelect={onConvert}>
            <Ruler size={15} /> Another unit
          </DropdownMenu.Item>
        )}
        {place > 0 && (
          <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "set_answer", key, to: place - 1 })}>
            <ArrowUp size={15} /> Move up
          </DropdownMenu.Item>
        )}
        {!last && (
          <DropdownMenu.Item className="menu-item" onSelect={() => change({ kind: "set_answer", key, to: place + 1 })}>
            <ArrowDown size={15} /> Move down
          </DropdownMenu.Item>
        )}
      </Menu>
    </DropdownMenu.Root>
  );
}
