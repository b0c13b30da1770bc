/** A form over the foot of the plot, on a phone over that of the window: what is pressed on the picture lies above it. */
export const PANEL =
  "no-print absolute inset-x-2 bottom-2 z-10 flex max-h-[52%] max-pair:fixed flex-wrap items-center gap-x-4 gap-y-2 overflow-y-auto rounded-(--radius) border border-edge bg-sheet px-3 py-2 text-plain";
