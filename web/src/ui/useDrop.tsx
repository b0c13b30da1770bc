import { useEffect, useState } from "react";

/** A file dropped anywhere on the window is handed on; whether one is being dragged over it now. */
export function useDrop(onFile: (file: File) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    const isFile = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const onOver = (event: DragEvent) => {
      if (!isFile(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent) => {
      if (!isFile(event)) return;
      event.preventDefault();
      setOver(false);
      const file = event.dataTransfer?.files[0];
      if (file) onFile(file);
    };
    window.addEventListener("dragover", onOver);
    window.addEventListener("dragleave", onLeave);
    window.addEventListener("drop", onDrop);
    return () => {
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("dragleave", onLeave);
      window.removeEventListener("drop", onDrop);
    };
  }, [onFile]);
  return over;
}

export function DropSign() {
  return (
    <div className="pointer-events-none fixed inset-3 z-50 grid place-content-center rounded-(--radius) border-2 border-dashed border-pine bg-sheet/85">
      <p className="font-book text-title">Drop a table (CSV, TSV, JSON, ODS, XLSX) or a picture (PNG, JPEG, WebP)</p>
    </div>
  );
}
