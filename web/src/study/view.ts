import { create } from "zustand";

import type { Analysis, Answer, Curve, Direction, FollowedLine, PicturePlace } from "../api/client";

/** What is looked at and pointed at; nothing in here is part of the study. */
export interface Domain {
  x: [number, number];
  y: [number, number];
}

export interface Place {
  row: number;
  col: number;
}

/** A block of cells from the anchor to the active cell. */
export interface Selection {
  anchor: Place;
  active: Place;
}

/** What pressing on the plot does. */
export type Tool = "look" | "box" | "region" | "shift" | "add" | OnPicture;
/** What it does on the picture under it: follow a line, measure, place a mark of its scale. */
export type OnPicture = "line" | "measure" | "mark";

/** Which view stands in the middle. */
export type Lens = "plot" | "residuals" | "compare" | "resample" | "workings" | "report";

/** A table that waits to be looked through: pasted, or from a file that can be read again in another way. */
export interface Incoming {
  text: string;
  file?: File;
  name?: string;
  sheets?: string[];
  sheet?: string;
  encoding?: string;
  encodings?: string[];
  remarks?: string[];
  /** The cell that it was pasted at. */
  at?: Place;
}

/** How shares of the readings are drawn, and how they are shown; `letters` null: the leading fit. */
export interface Resample {
  kind: "shares" | "parts" | "in_turn";
  share: number;
  times: number;
  parts: number;
  seed: number;
  letters: string | null;
  together: boolean;
}

/** What is followed step by step, and how. `of`: the key of a fit, an answer or a form; empty for the first that there is. */
export interface Following {
  of: string;
  what: string;
  form: "fractions" | "decimals";
  places: number;
  x: string;
  y: string;
  /** Whether the next line is covered until it is asked for. */
  covered: boolean;
  /** How many groups of lines are uncovered then. */
  uncovered: number;
}

/** Where to measure next, and for what: `of` as the API names it. Where one can measure as typed; to which share of the uncertainty. */
export interface Measuring {
  of: string;
  low: string;
  high: string;
  share: number;
}

/** A place in the picture, in its pixels from the upper left corner. */
export type PicturePixel = [number, number];

/** The scale of the picture while it is being made: the marks x first, x second, y first, y second, or the two ends of a length. */
export interface Scaling {
  kind: "none" | "length" | "axes";
  places: (PicturePixel | null)[];
  values: string[];
  /** Which mark the next press places. */
  next: number;
  log_x: boolean;
  log_y: boolean;
  /** Whether the readings stay where they are on the picture. */
  follow: boolean;
}

/** A line that is being followed: where it was pressed, how many picks, and what was found. */
export interface Tracing {
  start: PicturePixel;
  stop: PicturePixel | null;
  count: number;
  found: FollowedLine | null;
  problem: string;
}

interface View {
  /** Null until a cell or a point is chosen. Its rows are lit in the table, on the plot and in the strip. */
  selection: Selection | null;
  /** What the plot shows; null: all readings. */
  domain: Domain | null;
  /** What the plot shows at the moment, whichever way it came about, and its height over its width; `shape`: that of the plot alone. Null before it is drawn. */
  seen: (Domain & { aspect: number; shape: number }) | null;
  /** The analysis as it would be with the cell that is being typed. */
  preview: Analysis | null;
  /** The same, as far as the table and the page have followed. */
  calm: Analysis | null;
  /** What stands in the ask line. */
  question: { direction: Direction; given: string; repeats: number; fit: string };
  /** The answer in the ask line, drawn on the plot while it stands there. */
  asked: Answer | null;
  /** While an answer is being kept: the keys of those that were there before, so that the page can bring the new one into view. */
  keeping: string[] | null;
  panel: "readings" | "plot" | "page";
  pageFolded: boolean;
  /** Which view stands in the middle. */
  lens: Lens;
  resample: Resample;
  following: Following;
  /** What more readings are wanted for; null while nobody asks. */
  measuring: Measuring | null;
  tool: Tool;
  /** The reading in hand and where it would go, in the units of the axes; the view stands still meanwhile. */
  inHand: { row: number; x: number; y: number } | null;
  /** The fit whose numbers are being turned, with its curve as it was before; the view stands still meanwhile. */
  turning: { letter: string; before: Curve | null } | null;
  /** A fit's curve as it would be without the reading that is pointed at. */
  without: { letter: string; curve: Curve } | null;
  /** The reading that a number of a working comes from, while that is pointed at. */
  source: number | null;
  /** Rows that a region on the plot has caught. */
  caught: number[] | null;
  /** A table that waits to be looked through before it is taken in. */
  incoming: Incoming | null;
  /** Whether the instrument's panel is open; null: as the study has it. */
  instrument: boolean | null;
  /** Where the tool in hand points, in pixels of the drawing; null while it is elsewhere. */
  cursor: { px: number; py: number } | null;
  /** Where the picture would lie, while a hand moves it. */
  laying: PicturePlace | null;
  scaling: Scaling | null;
  tracing: Tracing | null;
  /** Places between which something is being measured. */
  spanned: PicturePixel[];
  /** The row that is being typed in, while nothing but missing cells is wrong with it; null where none is. */
  filling: number | null;
}

const START: View = {
  selection: null,
  domain: null,
  seen: null,
  preview: null,
  calm: null,
  question: { direction: "y_at_x", given: "", repeats: 1, fit: "" },
  asked: null,
  keeping: null,
  panel: "plot",
  pageFolded: false,
  lens: "plot",
  resample: { kind: "shares", share: 50, times: 9, parts: 5, seed: 1, letters: null, together: false },
  following: { of: "", what: "", form: "fractions", places: 4, x: "", y: "", covered: false, uncovered: 1 },
  measuring: null,
  tool: "look",
  inHand: null,
  turning: null,
  without: null,
  source: null,
  caught: null,
  incoming: null,
  instrument: null,
  cursor: null,
  laying: null,
  scaling: null,
  tracing: null,
  spanned: [],
  filling: null,
};

export const useView = create<View>(() => START);
export const setView = useView.setState;
export const resetView = () => useView.setState(START);

/** Another tool; what the last one had begun is let go. */
export const take = (tool: Tool) =>
  setView(({ scaling }) => ({
    tool,
    caught: null,
    inHand: null,
    cursor: null,
    tracing: null,
    spanned: [],
    scaling: tool === "mark" ? scaling : null,
  }));

export const select = (active: Place, anchor: Place = active) => setView({ selection: { anchor, active } });

/** Choose a reading by its row: the cell of its y. */
export function chooseReading(columns: { role: string }[], row: number) {
  const y = columns.findIndex((column) => column.role === "y");
  select({ row, col: Math.max(0, y) });
}

/** Follow something else, from its first line on; or the same in another look, where one was. */
export const follow = (part: Partial<Following>) =>
  setView((view) => {
    const another = ["of", "what", "x", "y"].some((key) => key in part);
    return { following: { ...view.following, ...(another && { uncovered: 1 }), ...part } };
  });

/** To the workings of a fit, an answer or a form, by its key. */
export function followWorkings(of: string) {
  setView({ lens: "workings", panel: "plot", caught: null });
  follow({ of, what: "", x: "", y: "" });
}

/** Where to measure next for one thing, shown on the plot; asked again, no longer. */
export const measureFor = (of: string) =>
  setView(({ measuring, lens }) =>
    measuring?.of === of
      ? { measuring: null }
      : { measuring: { low: "", high: "", share: 50, ...measuring, of }, lens: lens === "compare" ? "plot" : lens },
  );

/** First and last row of the selection. */
export function litRows(selection: Selection | null): [number, number] | null {
  if (!selection) return null;
  const { anchor, active } = selection;
  return [Math.min(anchor.row, active.row), Math.max(anchor.row, active.row)];
}

/** First and last column of the selection. */
export function litColumns({ anchor, active }: Selection): [number, number] {
  return [Math.min(anchor.col, active.col), Math.max(anchor.col, active.col)];
}

export const isLit = (rows: [number, number] | null, row: number) => rows !== null && row >= rows[0] && row <= rows[1];
