import { useMutation, useQuery } from "@tanstack/react-query";
import { type FormEvent, useEffect, useState } from "react";

import { api } from "../api/client";
import { must } from "../api/must";
import { Form } from "../account/Form";
import { PlainPage } from "../account/PlainPage";
import { navigate } from "../route";

const NAME = { name: "student", label: "Your name", complete: "name", note: "Only your teacher sees it." };

/** Into a class by its code: typed, or from a link. */
export function JoinPage({ code }: { code: string }) {
  useEffect(() => {
    document.title = "Join a class · Ridge";
  }, []);
  return <PlainPage title="Join a class">{code ? <Invited key={code} code={code} /> : <TypeCode problem="" />}</PlainPage>;
}

function TypeCode({ problem }: { problem: string }) {
  const [typed, setTyped] = useState("");
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (typed.trim()) navigate(`/join/${encodeURIComponent(typed.trim())}`);
  };
  return (
    <form className="grid max-w-md gap-3 border border-rule bg-sheet p-5" onSubmit={send} aria-label="Code">
      <label className="grid gap-1 text-plain">
        The code that your teacher gave you
        <input
          className="field w-full font-mono uppercase"
          autoComplete="off"
          spellCheck={false}
          maxLength={20}
          required
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      {problem && (
        <p role="alert" className="text-plain text-amber">
          {problem}
        </p>
      )}
      <button className="button-main justify-self-start">Go on</button>
    </form>
  );
}

function Invited({ code }: { code: string }) {
  const invitation = useQuery({
    queryKey: ["join", code],
    retry: false,
    queryFn: () => must(api.GET("/api/join/{code}", { params: { path: { code } } })),
  });
  const join = useMutation({
    mutationFn: ({ student = "" }: Record<string, string>) => must(api.POST("/api/join", { body: { code, student } })),
    onSuccess: ({ study }) => navigate(`/study/${study}`),
  });
  if (invitation.error) return <TypeCode problem={invitation.error.message} />;
  if (!invitation.data) return <p className="text-mute">Looking…</p>;
  const { title, steps, closed } = invitation.data;
  return (
    <div className="max-w-md">
      <Form
        title={title}
        note={
          closed
            ? "This worksheet is closed. Whoever has a copy already still finds it here."
            : `A worksheet of ${steps === 1 ? "one step" : `${steps} steps`}. You get a copy of your own, which is kept as you work.`
        }
        asked={[NAME]}
        send="Begin"
        busy={join.isPending}
        problem={join.error?.message ?? ""}
        onSend={join.mutate}
      />
    </div>
  );
}
