import { Popover } from "radix-ui";
import { useId, useState } from "react";

interface Props {
  word: string;
  /** What stands on the button where there is no room for the word. */
  short?: string;
  question: string;
  example: string;
  note: string;
  onKeep: (reason: string) => void;
}

/** A button that asks why before it does something to readings. */
export function ReasonButton({ word, short, question, example, note, onKeep }: Props) {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const id = useId();
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button className="button" aria-label={short && word} title={short && word}>
          {short ?? word}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" side="top" sideOffset={4} collisionPadding={8} className="floating w-72" aria-label={word}>
          <form
            className="grid gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              setOpen(false);
              onKeep(reason.trim());
              setReason("");
            }}
          >
            <label className="grid gap-1" htmlFor={id}>
              {question}
              <input
                id={id}
                className="field"
                value={reason}
                maxLength={200}
                placeholder={example}
                onChange={(event) => setReason(event.target.value)}
              />
            </label>
            <p className="text-note text-mute">{note}</p>
            <button className="button-main justify-self-end">{word}</button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
