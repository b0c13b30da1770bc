import { MessageSquarePlus } from "lucide-react";
import { Popover } from "radix-ui";
import { type FormEvent, useId, useState } from "react";

import { useCommenting } from "./useComments";

const NAME = "ridge-comment-name";

interface Props {
  about: string;
  place: string;
  /** What stands beside the sign; empty for the sign alone. */
  word?: string;
}

/** A comment beside a result, by whoever looks at it. */
export function AddComment({ about, place, word }: Props) {
  const [open, setOpen] = useState(false);
  const id = useId();
  const { leave } = useCommenting();
  const [text, setText] = useState("");
  const [author, setAuthor] = useState(() => localStorage.getItem(NAME) ?? "");
  const send = (event: FormEvent) => {
    event.preventDefault();
    if (!text.trim() || leave.isPending) return;
    localStorage.setItem(NAME, author);
    leave.mutate(
      { about, place, author, text },
      {
        onSuccess: () => {
          setText("");
          setOpen(false);
        },
      },
    );
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          className="inline-flex min-h-6 min-w-6 items-center gap-1 justify-self-start rounded-sm px-0.5 text-note text-mute hover:text-ink"
          aria-label={`Comment on ${place || "the study"}`}
        >
          <MessageSquarePlus size={14} /> {word ?? "Comment"}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} collisionPadding={8} className="floating w-72" aria-label={`Comment on ${place}`}>
          <form className="grid gap-2" onSubmit={send}>
            {place && <p className="line-clamp-2 text-note text-mute">{place}</p>}
            <label className="sr-only" htmlFor={`${id}-text`}>
              Comment
            </label>
            <textarea
              id={`${id}-text`}
              className="field h-auto w-full py-1"
              rows={3}
              maxLength={2000}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
            <label className="flex items-center gap-2 text-plain">
              From
              <input
                className="field min-w-0 grow"
                maxLength={60}
                placeholder="your name, if you like"
                value={author}
                onChange={(event) => setAuthor(event.target.value)}
              />
            </label>
            {leave.error && (
              <p role="alert" className="text-plain text-amber">
                {leave.error.message}
              </p>
            )}
            <button className="button-main justify-self-end" aria-disabled={!text.trim() || leave.isPending}>
              Leave the comment
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
