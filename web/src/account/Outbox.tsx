import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";

import { api } from "../api/client";
import { must } from "../api/must";
import { PlainPage } from "./PlainPage";

/** The letters that this demo would have sent. */
export function Outbox() {
  const { data, error } = useQuery({ queryKey: ["outbox"], staleTime: 0, queryFn: () => must(api.GET("/api/outbox")) });
  useEffect(() => {
    document.title = "Letters · Ridge";
  }, []);
  return (
    <PlainPage title="Letters">
      <p className="text-plain text-mute">The demo has no mail server. What it would send is kept here, where everybody can read it.</p>
      {error && <p role="alert">{error.message}</p>}
      {data?.letters.length === 0 && <p>No letters yet.</p>}
      {data?.letters.map((letter, place) => (
        <article key={place} className="grid gap-2 border border-rule bg-sheet p-5">
          <h2 className="font-book text-lead font-semibold">{letter.subject}</h2>
          <p className="text-note text-mute">
            To {letter.to}
            {letter.sent && `, ${new Date(letter.sent).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}`}
          </p>
          <div className="text-plain whitespace-pre-line [overflow-wrap:anywhere]">{linked(letter.text)}</div>
        </article>
      ))}
    </PlainPage>
  );
}

/** A text whose addresses can be followed. */
const linked = (text: string) =>
  text.split(/(https?:\/\/\S+)/).map((part, place) =>
    place % 2 ? (
      <a key={place} className="text-accent underline" href={part}>
        {part}
      </a>
    ) : (
      part
    ),
  );
