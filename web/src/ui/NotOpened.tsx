import { navigate } from "../route";

interface Props {
  title: string;
  /** Why; null as long as it is still being opened. */
  problem: string | null;
  onAgain: () => void;
}

/** In place of a study that is being opened, or cannot be. */
export function NotOpened({ title, problem, onAgain }: Props) {
  return (
    <main className="grid h-full place-content-center gap-3 p-6 text-center">
      {problem === null ? (
        <p className="text-mute">Opening…</p>
      ) : (
        <>
          <h1 className="font-book text-title font-semibold">{title}</h1>
          <p role="alert">{problem}</p>
          <p className="flex justify-center gap-2">
            <button className="button-main" onClick={onAgain}>
              Try again
            </button>
            <button className="button" onClick={() => navigate("/")}>
              Go to the shelf
            </button>
          </p>
        </>
      )}
    </main>
  );
}
