import { BoxSelect, Hand, type LucideIcon, Move, Plus, SquareDashedMousePointer } from "lucide-react";
import { ToggleGroup } from "radix-ui";

import { useLooking } from "../study/context";
import { take, type Tool, useView } from "../study/view";
import { Hint } from "../ui/Hint";

const TOOLS: { tool: Tool; icon: LucideIcon; word: string; hint: string }[] = [
  { tool: "look", icon: Hand, word: "Pan and select", hint: "Drag to move the view; click a reading to select it" },
  { tool: "box", icon: BoxSelect, word: "Zoom to a rectangle", hint: "Drag a rectangle to zoom in" },
  {
    tool: "region",
    icon: SquareDashedMousePointer,
    word: "Select a region",
    hint: "Drag a rectangle: set its readings aside, or use them again",
  },
  { tool: "shift", icon: Move, word: "Move a reading", hint: "Drag a reading, or select one and use the arrow keys; every fit follows" },
  { tool: "add", icon: Plus, word: "Add readings", hint: "Click where the reading should go" },
];

/** What whoever looks at somebody else's study can do. */
const LOOKING: Tool[] = ["look", "box"];

/** What pressing on the plot does. */
export function PlotTools() {
  const tool = useView((view) => view.tool);
  const looking = useLooking();
  return (
    <ToggleGroup.Root
      type="single"
      aria-label="What pressing on the plot does"
      className="flex"
      value={tool}
      onValueChange={(next) => take(TOOLS.find(({ tool }) => tool === next)?.tool ?? "look")}
    >
      {TOOLS.filter((one) => !looking || LOOKING.includes(one.tool)).map(({ tool: name, icon: Icon, word, hint }) => (
        <Hint key={name} text={`${word}: ${hint[0]!.toLowerCase()}${hint.slice(1)}`}>
          <ToggleGroup.Item value={name} aria-label={word} className="icon-button aria-checked:bg-lichen aria-checked:text-on-lichen">
            <Icon size={16} />
          </ToggleGroup.Item>
        </Hint>
      ))}
    </ToggleGroup.Root>
  );
}
