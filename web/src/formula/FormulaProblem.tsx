/** The text with the place of the mistake marked, what is wrong, and what could stand there. */
export function FormulaProblem({
  text,
  at,
  length,
  message,
  possible,
}: {
  text: string;
  at: number | null;
  length: number;
  message: string;
  possible: string;
}) {
  return (
    <div role="status" className="text-amber">
      {at !== null && (
        <p className="font-mono text-plain text-ink" aria-hidden="true">
          {text.slice(0, at)}
          <mark className="bg-amber-well text-amber underline decoration-wavy underline-offset-2">
            {text.slice(at, at + Math.max(length, 1)) || "\u00a0"}
          </mark>
          {text.slice(at + Math.max(length, 1))}
        </p>
      )}
      <p>
        {message}
        {possible && <span className="text-mute"> Possible here: {possible}.</span>}
      </p>
    </div>
  );
}
