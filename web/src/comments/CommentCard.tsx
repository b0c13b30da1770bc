import { Check, MessageSquare, Reply } from "lucide-react";
import { type FormEvent, useState } from "react";

import type { Comment } from "../api/client";
import { useCommenting } from "./useComments";

const clock = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

/** Shown for an author without a name. */
const NOBODY = { owner: "Owner", teacher: "Teacher", visitor: "Visitor" } as const;

/** One comment with its reply: the owner of the study replies to it and removes it, its author takes it back. */
export function CommentCard({ comment, place }: { comment: Comment; place?: string }) {
  const { looking, answer, clear } = useCommenting();
  const [answering, setAnswering] = useState(false);
  const problem = answer.error ?? clear.error;
  return (
    <div role="group" aria-label="Comment" className="border-l-2 border-pine bg-well py-1 pr-1 pl-2 text-plain">
      <p className="flex items-center gap-1.5 text-note text-mute">
        <MessageSquare size={13} className="shrink-0" />
        <span className="min-w-0 grow truncate">
          {comment.author || NOBODY[comment.role]}, {clock.format(new Date(comment.made))}
          {place && ` · ${place}`}
        </span>
        {!looking && (
          <button className="icon-button" aria-label="Answer this comment" title="Answer" onClick={() => setAnswering(!answering)}>
            <Reply size={14} />
          </button>
        )}
        {comment.removable && (
          <button
            className="icon-button"
            aria-label={looking ? "Take this comment back" : "Clear this comment"}
            title={looking ? "Take back" : "Clear"}
            onClick={() => clear.mutate(comment.id)}
          >
            <Check size={14} />
          </button>
        )}
      </p>
      <p className="[overflow-wrap:anywhere] whitespace-pre-line">{comment.text}</p>
      {comment.answer && !answering && (
        <p className="mt-0.5 [overflow-wrap:anywhere] whitespace-pre-line text-mute">
          <span className="font-semibold">Answer:</span> {comment.answer}
        </p>
      )}
      {answering && (
        <AnswerForm
          first={comment.answer}
          onSend={(text) => answer.mutate({ comment: comment.id, text }, { onSuccess: () => setAnswering(false) })}
        />
      )}
      {problem && (
        <p role="alert" className="text-amber">
          {problem.message}
        </p>
      )}
    </div>
  );
}

function AnswerForm({ first, onSend }: { first: string; onSend: (text: string) => void }) {
  const [text, setText] = useState(first);
  const send = (event: FormEvent) => {
    event.preventDefault();
    onSend(text);
  };
  return (
    <form className="mt-1 flex items-end gap-1" onSubmit={send}>
      <textarea
        className="field h-auto min-w-0 grow py-1"
        aria-label="Answer"
        rows={2}
        maxLength={2000}
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button className="button">Answer</button>
    </form>
  );
}
