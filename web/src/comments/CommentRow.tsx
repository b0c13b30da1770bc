import { CommentCard } from "./CommentCard";
import { useComments } from "./useComments";

/** What is said of a row of a table, below it. */
export function CommentRow({ columns, about }: { columns: number; about: string }) {
  const here = useComments().filter((comment) => comment.about === about);
  if (!here.length) return null;
  return (
    <tr className="no-print">
      <td colSpan={columns} className="pb-1.5">
        {here.map((comment) => (
          <CommentCard key={comment.id} comment={comment} />
        ))}
      </td>
    </tr>
  );
}
