import type { PlotScales } from "../plot/usePlotScales";
import { type PicturePixel, useView } from "../study/view";
import { apply, type Matrix } from "./matrix";
import { NAMES, SHORT } from "./scaling";
import { usePicture } from "./usePicture";

/** What lies on the picture and is no reading: marks of its scale, what was measured, a line that is being followed. */
export function PictureMarks({ scales: { x, y } }: { scales: PlotScales }) {
  const found = usePicture(x, y);
  const scaling = useView((view) => view.scaling);
  const tracing = useView((view) => view.tracing);
  const spanned = useView((view) => view.spanned);
  if (!found) return null;
  const { matrix, picture } = found;
  const at = (pixel: PicturePixel) => apply(matrix, pixel);
  const spans = [
    ...(picture.laid.measured ?? []).map(({ points, name }, i) => ({ points, text: name || picture.measured[i]?.text || "" })),
  ];
  return (
    <g pointerEvents="none">
      {spans.map(({ points, text }, i) => (
        <Span key={i} points={points.map(([px = 0, py = 0]) => at([px, py]))} text={text} />
      ))}
      {spanned.length > 0 && <Span points={spanned.map(at)} text="" />}
      {tracing?.found?.pixels.map((pixel, i) => {
        const [cx, cy] = at([pixel[0]!, pixel[1]!]);
        return (
          <circle
            key={i}
            data-testid="traced"
            cx={cx}
            cy={cy}
            r="3.2"
            fill="var(--color-lichen)"
            stroke="var(--color-ink)"
            strokeWidth="1"
          />
        );
      })}
      {tracing && <Cross at={at(tracing.start)} text="" lit />}
      {tracing?.stop && <Cross at={at(tracing.stop)} text="" lit />}
      {scaling && (
        <Marks matrix={matrix} places={scaling.places} words={SHORT[scaling.kind]} names={NAMES[scaling.kind]} next={scaling.next} />
      )}
    </g>
  );
}

interface MarksProps {
  matrix: Matrix;
  places: (PicturePixel | null)[];
  words: string[];
  names: string[];
  next: number;
}

function Marks({ matrix, places, words, names, next }: MarksProps) {
  return places.map((place, i) => {
    if (!place) return null;
    return <Cross key={names[i]} at={apply(matrix, place)} text={words[i] ?? ""} lit={i === next} />;
  });
}

/** A cross with a light rim: seen on any picture. */
function Cross({ at: [px, py], text, lit }: { at: PicturePixel; text: string; lit: boolean }) {
  const d = `M${px - 8} ${py}h16M${px} ${py - 8}v16`;
  return (
    <g data-testid="mark">
      <path d={d} stroke="var(--color-sheet)" strokeWidth="5" />
      <path d={d} stroke={lit ? "var(--color-copper)" : "var(--color-ink)"} strokeWidth="2" />
      <text
        x={px + 7}
        y={py - 6}
        fontSize="var(--text-plain)"
        stroke="var(--color-sheet)"
        strokeWidth="4"
        paintOrder="stroke"
        fill="var(--color-ink)"
      >
        {text}
      </text>
    </g>
  );
}

function Span({ points, text }: { points: PicturePixel[]; text: string }) {
  const d = points.map(([px, py], i) => `${i ? "L" : "M"}${px} ${py}`).join("");
  const [first, last] = [points[0]!, points[points.length - 1]!];
  const middle = points.length === 3 ? points[1]! : [(first[0] + last[0]) / 2, (first[1] + last[1]) / 2];
  return (
    <g data-testid="span">
      <path d={d} fill="none" stroke="var(--color-sheet)" strokeWidth="4.5" />
      <path d={d} fill="none" stroke="var(--color-iris)" strokeWidth="1.8" />
      {points.map(([px, py], i) => (
        <circle key={i} cx={px} cy={py} r="3.5" fill="var(--color-sheet)" stroke="var(--color-iris)" strokeWidth="1.8" />
      ))}
      <text
        x={middle[0]! + 8}
        y={middle[1]! - 8}
        fontSize="var(--text-plain)"
        stroke="var(--color-sheet)"
        strokeWidth="4"
        paintOrder="stroke"
        fill="var(--color-iris)"
      >
        {text}
      </text>
    </g>
  );
}
