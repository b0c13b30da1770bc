import { Copy } from "lucide-react";

import { notify } from "../ui/Notices";

interface Props {
  codes: string[];
  onKept: () => void;
}

/** Recovery codes, shown this once. */
export function Codes({ codes, onKept }: Props) {
  const copy = () => void navigator.clipboard.writeText(codes.join("\n")).then(() => notify("The codes are copied."));
  return (
    <section role="alert" aria-label="Recovery codes" className="grid gap-3 border border-edge bg-sheet p-5">
      <h2 className="font-book text-lead font-semibold">Your recovery codes</h2>
      <p className="text-plain text-mute">
        Should you lose the password, each of these lets you choose a new one, once. They are shown now and never again: write them down or
        keep them where you keep such things.
      </p>
      <ul className="numerals grid gap-x-6 gap-y-1 font-mono [grid-template-columns:repeat(auto-fit,minmax(11rem,1fr))]">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <p className="flex flex-wrap gap-2">
        <button className="button" onClick={copy}>
          <Copy size={14} /> Copy them
        </button>
        <button className="button-main" onClick={onKept}>
          I have kept them
        </button>
      </p>
    </section>
  );
}
