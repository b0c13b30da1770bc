interface Props {
  error: Error | null;
  onAgain: () => void;
}

/** Why something could not be made, in its place; nothing where it could. */
export function NotMade({ error, onAgain }: Props) {
  if (!error) return null;
  return (
    <p role="alert" className="flex flex-wrap items-center gap-3 rounded-(--radius) bg-amber-well px-4 py-3 text-amber">
      {error.message}
      <button className="button" onClick={onAgain}>
        Try again
      </button>
    </p>
  );
}
