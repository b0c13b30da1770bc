import type { Direction } from "../api/client";
import { isDrawn } from "../fits/kinds";
import { useAnalysisPart, useChange } from "../study/context";
import { setView, useView } from "../study/view";
import type { Question } from "./useAsk";

/** The longest text of a result that is kept for comparing it with what follows. */
const LONGEST_RESULT = 400;

const listed = (given: string) => given.split(/[\s;]+/).filter(Boolean);
const isList = (given: string) => listed(given).length > 1;

/** The question in the ask line, what it can become, and the step that keeps its answer. */
export function useQuestion() {
  const change = useChange();
  const fits = useAnalysisPart((analysis) => analysis.fits);
  const answers = useAnalysisPart((analysis) => analysis.answers);
  const question = useView((view) => view.question);
  const asked = useView((view) => view.asked);
  const { direction, given, repeats, fit } = question;
  const drawn = fits.filter(isDrawn);
  const others = drawn.filter((one) => one.letter !== (fit || drawn[0]?.letter));
  /** Whether x is looked for, and y given. */
  const looking = direction === "x_at_y";
  /** Whether a value is predicted, so that every fit can be asked and both sides exchanged. */
  const predicting = looking || direction === "y_at_x";
  const several = looking && isList(given);
  const put = (part: Partial<Question>) => {
    const next = { ...question, ...part };
    // How often one value was read says nothing of a list, and the other way round.
    if (part.given !== undefined && isList(part.given) !== isList(given)) next.repeats = 1;
    else if (part.given !== undefined && isList(part.given) && repeats > 1) next.repeats = listed(part.given).length;
    setView({ question: next });
  };
  const ask = (next: Direction) => {
    const value = next === "crossing" ? (others[0]?.letter ?? "") : direction === "crossing" ? "" : given;
    const every = fit === "all" && next !== "y_at_x" && next !== "x_at_y";
    setView({ asked: null, question: { ...question, direction: next, given: value, fit: every ? "" : fit } });
  };
  const keep = () => {
    const was = (asked?.result ?? "").slice(0, LONGEST_RESULT);
    setView({ keeping: answers.map(({ key }) => key) });
    change({ kind: "keep_answer", direction, given: given.trim(), repeats, fit, was });
    put({ given: "", repeats: 1 });
  };
  return { question, asked, drawn, others, looking, predicting, several, put, ask, keep };
}

export type Asking = ReturnType<typeof useQuestion>;
