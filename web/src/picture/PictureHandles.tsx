import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import type { LaidPicture, PicturePlace } from "../api/client";
import type { Areas } from "../plot/areas";
import { pixelOf } from "../plot/nearest";
import type { PlotScales } from "../plot/usePlotScales";
import { exponentsOf } from "../study/changes";
import { useQueue, useStudy } from "../study/context";
import { type PicturePixel, setView, useView } from "../study/view";
import { apply, corners, followedBy, inPlot, type Matrix, onScreen, placed } from "./matrix";
import { moved, scaled, turned } from "./laying";
import { usePicture } from "./usePicture";

const ARROWS: Record<string, PicturePixel> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
/** Pixels from the upper edge to what it is turned by, inwards: there is room for it wherever the picture is seen. */
const AWAY = 30;
const RIM = 2;
const NAMES = ["upper left", "upper right", "lower right", "lower left"];

interface Handle {
  name: string;
  at: PicturePixel;
  does: string;
  /** The place of the picture when this handle is at a pixel of the drawing. */
  to: (place: PicturePlace, at: PicturePixel) => PicturePlace;
}

/** What a picture is moved, scaled and turned by; none while it is locked or held by marks on its axes. */
export function PictureHandles({ areas, scales: { x, y } }: { areas: Areas; scales: PlotScales }) {
  const study = useStudy();
  const found = usePicture(x, y);
  const tool = useView((view) => view.tool);
  const laying = useView((view) => view.laying);
  if (!found || tool !== "look" || found.picture.laid.locked || found.picture.laid.scale?.y_marks) return null;
  const { laid } = found.picture;
  const table = followedBy(inPlot(exponentsOf(study), [laid.log_x ?? false, laid.log_y ?? false]), onScreen(x, y));
  const seen = ({ at: [px, py] }: Handle) =>
    px > areas.left - RIM && px < areas.right + RIM && py > areas.top - RIM && py < areas.floor + RIM;
  const handles = handlesOf(laid, laying ?? laid.place, table).filter((handle) => laying !== null || seen(handle));
  return handles.map((handle) => <HandleAt key={handle.name} handle={handle} laid={laid} />);
}

/** `table`: from numbers of the table to the drawing. */
function handlesOf(laid: LaidPicture, place: PicturePlace, table: Matrix): Handle[] {
  const matrix = followedBy(placed(place, laid), table);
  const at = corners(laid).map((corner) => apply(matrix, corner));
  const middle = apply(matrix, [laid.width / 2, laid.height / 2]);
  const top = apply(matrix, [laid.width / 2, 0]);
  const up = Math.hypot(top[0] - middle[0], top[1] - middle[1]) || 1;
  const knob: PicturePixel = [top[0] - ((top[0] - middle[0]) / up) * AWAY, top[1] - ((top[1] - middle[1]) / up) * AWAY];
  const handles: Handle[] = [
    { name: "middle", at: middle, does: "moves the picture", to: (from, to) => moved(from, to, table) },
    { name: "turn", at: knob, does: "turns the picture", to: (from, to) => turned(from, to, middle) },
  ];
  // A known length says how large it is.
  if (laid.scale) return handles;
  const sized = at.map((corner, i) => {
    const other = at[(i + 2) % 4]!;
    return {
      name: NAMES[i]!,
      at: corner,
      does: "scales the picture",
      to: (from: PicturePlace, to: PicturePixel) => scaled(from, corner, other, to, table),
    };
  });
  return [...handles, ...sized];
}

function HandleAt({ handle: { name, at, does, to }, laid }: { handle: Handle; laid: LaidPicture }) {
  const queue = useQueue();
  const held = useRef<Handle["to"] | null>(null);
  const from = useRef(laid.place);
  const begin = () => {
    held.current = to;
    from.current = laid.place;
    setView({ laying: laid.place });
  };
  const end = () => {
    const { laying } = useView.getState();
    held.current = null;
    if (laying && laying !== laid.place) queue.change({ kind: "put_picture", picture: { ...laid, place: laying } });
    // The study shows it at once: see showTyped.
    setView({ laying: null });
  };
  const onPointerMove = (event: PointerEvent<SVGGElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId) || !held.current) return;
    const { px, py } = pixelOf(event, event.currentTarget.ownerSVGElement!);
    setView({ laying: held.current(from.current, [px, py]) });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    event.stopPropagation();
    const size = event.shiftKey ? 10 : 1;
    const next: PicturePixel = [at[0] + arrow[0] * size, at[1] + arrow[1] * size];
    queue.change({ kind: "put_picture", picture: { ...laid, place: to(laid.place, next) } });
  };
  return (
    <g
      data-handle="picture"
      data-testid={`picture-${name}`}
      role="button"
      tabIndex={0}
      aria-label={`${name}: ${does}. Drag it, or move it with the arrows.`}
      className={name === "middle" ? "cursor-move" : "cursor-grab"}
      onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        begin();
      }}
      onPointerMove={onPointerMove}
      onPointerUp={end}
      onPointerCancel={end}
      onKeyDown={onKeyDown}
    >
      <title>{does}</title>
      <circle cx={at[0]} cy={at[1]} r="14" fill="transparent" />
      {name === "turn" || name === "middle" ? (
        <circle cx={at[0]} cy={at[1]} r="7" fill="var(--color-lichen)" stroke="var(--color-ink)" strokeWidth="1.8" />
      ) : (
        <rect x={at[0] - 6} y={at[1] - 6} width="12" height="12" fill="var(--color-lichen)" stroke="var(--color-ink)" strokeWidth="1.8" />
      )}
      {name === "middle" && <path d={`M${at[0] - 4} ${at[1]}h8M${at[0]} ${at[1] - 4}v8`} stroke="var(--color-ink)" strokeWidth="1.4" />}
    </g>
  );
}
