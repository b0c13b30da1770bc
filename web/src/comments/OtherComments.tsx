import { isComputed, isDrawn } from "../fits/kinds";
import { Section } from "../page/Section";
import { useCalmAnalysis, useLooking } from "../study/context";
import { select } from "../study/view";
import { AddComment } from "./AddComment";
import { CommentCard } from "./CommentCard";
import { useComments } from "./useComments";

/** Comments on the whole study, on readings, and on results that are no longer there. */
export function OtherComments() {
  const looking = useLooking();
  const { fits, answers, unknowns } = useCalmAnalysis();
  const comments = useComments();
  const there = new Set([
    ...fits.flatMap((fit) => [
      `fit:${fit.letter}`,
      ...(isComputed(fit) ? fit.parameters.map(({ name }) => `parameter:${fit.letter}:${name}`) : []),
      ...(isDrawn(fit) ? fit.cautions.map(({ code }) => `caution:${fit.letter}:${code}`) : []),
    ]),
    ...[...answers, ...unknowns.map(({ answer }) => answer)].map(({ key }) => `answer:${key}`),
  ]);
  const others = comments.filter(({ about }) => !there.has(about));
  if (!looking && !others.length) return null;
  return (
    <Section title="Comments" empty>
      <div className="grid gap-1.5">
        {others.map((comment) => (
          <div key={comment.id}>
            <CommentCard comment={comment} place={comment.place} />
            <ShowRow about={comment.about} />
          </div>
        ))}
        {looking && <AddComment about="" place="" word="Comment on the study" />}
      </div>
    </Section>
  );
}

function ShowRow({ about }: { about: string }) {
  const row = /^row:(\d+)$/.exec(about);
  if (!row) return null;
  const at = { row: Number(row[1]), col: 0 };
  return (
    <button className="rounded-sm text-note text-mute underline underline-offset-2" onClick={() => select(at, at)}>
      Show row {at.row + 1}
    </button>
  );
}
