import type { Picture } from "../api/client";
import { setView, take, useView } from "../study/view";
import { Hint } from "../ui/Hint";
import { scalingOf } from "./scaling";

/** Opens what the pixels of the picture mean; its form lies over the plot, where the marks are pressed. */
export function ScaleButton({ picture }: { picture: Picture }) {
  const open = useView((view) => view.scaling !== null);
  const toggle = () => {
    if (open) return take("look");
    setView({ scaling: scalingOf(picture) });
    take("mark");
  };
  return (
    <Hint text="What the picture's pixels mean: nothing, a known length, or marks on its axes">
      <button
        className="button !h-[26px] !px-1.5 !text-note aria-pressed:border-edge aria-pressed:bg-lichen aria-pressed:text-on-lichen"
        aria-pressed={open}
        disabled={picture.laid.hidden}
        onClick={toggle}
      >
        Scale
      </button>
    </Hint>
  );
}
