import { Eye, EyeOff, Lock, LockOpen, type LucideIcon, Pipette, Ruler, Spline } from "lucide-react";
import { ToggleGroup } from "radix-ui";
import { memo } from "react";

import type { LaidPicture, Picture } from "../api/client";
import { useChange, useStudy } from "../study/context";
import { take, type Tool, useView } from "../study/view";
import { Hint } from "../ui/Hint";
import { PictureForm } from "./PictureForm";
import { ScaleButton } from "./ScaleButton";
import { onTheseAxes } from "./usePicture";

const TOOLS: { tool: Tool; icon: LucideIcon; word: string; hint: string }[] = [
  { tool: "add", icon: Pipette, word: "Pick", hint: "Press on the picture where a reading is; arrows point by its pixels, Enter picks" },
  { tool: "line", icon: Spline, word: "Follow a line", hint: "Press on a line in the picture: Ridge lays picks along it" },
  { tool: "measure", icon: Ruler, word: "Measure", hint: "Press on both ends of a length; a third place makes it an angle" },
];
const DOING: Partial<Record<Tool, string>> = {
  add: "Picking: each press is a reading",
  line: "Following: press on the line, then where it stops",
  measure: "Measuring: press on two ends, or on three places for an angle",
  mark: "Scaling: press where the mark is",
};

/** The picture under the plot: seen or not, locked or not, and what is done on it. */
export const PictureBar = memo(function PictureBar() {
  const { picture, plot } = useStudy();
  if (!picture) return null;
  return <Bar picture={picture} here={onTheseAxes(picture, plot)} />;
});

function Bar({ picture, here }: { picture: Picture; here: boolean }) {
  const change = useChange();
  const tool = useView((view) => view.tool);
  const { laid, problem, remark, advice } = picture;
  const put = (part: Partial<LaidPicture>) => change({ kind: "put_picture", picture: { ...laid, ...part } });
  const said = problem || (here ? DOING[tool] || remark || advice : "The picture lies on other axes: it is not shown on these.");
  return (
    <div role="group" aria-label="Picture under the plot" className="no-print text-note">
      <div className="flex flex-wrap items-center gap-x-1 gap-y-0.5">
        <Switch
          on={!laid.hidden}
          icons={[Eye, EyeOff]}
          word="Show the picture"
          hint={laid.hidden ? "Show the picture (P)" : "Hide the picture (P)"}
          onPress={() => put({ hidden: !laid.hidden })}
        />
        <Switch
          on={laid.locked ?? false}
          icons={[Lock, LockOpen]}
          word="Lock the picture"
          hint={laid.locked ? "Locked: nothing moves the picture" : "Lock the picture, so that nothing moves it"}
          onPress={() => put({ locked: !laid.locked })}
        />
        <ToggleGroup.Root
          type="single"
          aria-label="What pressing on the picture does"
          className="flex gap-x-0.5"
          value={tool}
          onValueChange={(next) => take(TOOLS.find(({ tool }) => tool === next)?.tool ?? "look")}
        >
          {TOOLS.map(({ tool: name, icon: Icon, word, hint }) => (
            <Hint key={name} text={`${word}: ${hint[0]!.toLowerCase()}${hint.slice(1)}`}>
              <ToggleGroup.Item
                value={name}
                disabled={laid.hidden || !here || problem !== ""}
                className="button !h-[26px] !px-1.5 !text-note aria-checked:border-edge aria-checked:bg-lichen aria-checked:text-on-lichen"
              >
                <Icon size={14} /> <span className="max-sm:sr-only">{word}</span>
              </ToggleGroup.Item>
            </Hint>
          ))}
        </ToggleGroup.Root>
        <ScaleButton picture={picture} />
        <PictureForm picture={picture} />
      </div>
      <p role="status" className={`mt-1 min-h-[1.45em] max-sm:min-h-[2.9em] ${problem || remark ? "text-amber" : "text-mute"}`}>
        {said}
      </p>
    </div>
  );
}

interface SwitchProps {
  on: boolean;
  icons: [LucideIcon, LucideIcon];
  word: string;
  hint: string;
  onPress: () => void;
}

function Switch({ on, icons: [On, Off], word, hint, onPress }: SwitchProps) {
  const Icon = on ? On : Off;
  return (
    <Hint text={hint}>
      <button className="icon-button" aria-label={word} aria-pressed={on} onClick={onPress}>
        <Icon size={15} />
      </button>
    </Hint>
  );
}
