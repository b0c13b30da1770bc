import { FileUp } from "lucide-react";
import { useRef } from "react";

import type { Incoming } from "../study/view";
import { takeFile, TYPES } from "./files";

interface Props {
  word: string;
  className: string;
  /** What the field is called for those who hear it. */
  label?: string;
  onTable: (incoming: Incoming) => void;
  onPicture: (file: File) => Promise<void>;
}

/** Opens the file dialog; the table, or the picture, in the chosen file is handed on. */
export function FileButton({ word, className, label = "A file of readings", onTable, onPicture }: Props) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={file}
        type="file"
        accept={TYPES}
        className="sr-only"
        aria-label={label}
        tabIndex={-1}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = ""; // so that the same file can be chosen again
          if (chosen) void takeFile(chosen, onTable, onPicture);
        }}
      />
      <button className={className} onClick={() => file.current?.click()}>
        <FileUp size={14} /> {word}
      </button>
    </>
  );
}
