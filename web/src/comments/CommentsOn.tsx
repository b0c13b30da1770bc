import { AddComment } from "./AddComment";
import { CommentCard } from "./CommentCard";
import { useComments } from "./useComments";
import { useLooking } from "../study/context";

interface Props {
  /** What it stands beside, as the API names it. */
  about: string;
  /** The same in words. */
  place: string;
  word?: string;
}

/** What is said of one result, and for whoever looks a way to say more. */
export function CommentsOn({ about, place, word }: Props) {
  const looking = useLooking();
  const here = useComments().filter((comment) => comment.about === about);
  if (!looking && !here.length) return null;
  return (
    <div className="no-print mt-1 grid gap-1">
      {here.map((comment) => (
        <CommentCard key={comment.id} comment={comment} />
      ))}
      {looking && <AddComment about={about} place={place} word={word} />}
    </div>
  );
}
