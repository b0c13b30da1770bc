import { REPORT_FRAME } from "../../bench/print";
import { useEffect, useRef, useState } from "react";

import { useStudy } from "../../study/context";
import { Own } from "../../study/Own";
import { LensTabs } from "../LensTabs";
import { Parts } from "./Parts";

/** What is handed in: its parts on the left, and beside them the report as it will be. */
export function ReportLens() {
  return (
    <section aria-label="Report" className="flex h-full min-h-0 flex-col gap-2">
      <div className="no-print flex min-h-[28px] shrink-0 flex-wrap items-center gap-2">
        <LensTabs />
      </div>
      <div className="flex min-h-0 grow gap-2 max-md:flex-col max-md:overflow-auto">
        <Own>
          <Parts />
        </Own>
        <Preview />
      </div>
    </section>
  );
}

/** The report as a page of its own, which follows the study and keeps its place. */
function Preview() {
  const { id, version } = useStudy();
  const frame = useRef<HTMLIFrameElement>(null);
  const top = useRef(0);
  const [shown, setShown] = useState<number | null>(null);
  // The older page is still there when the newer one has only been asked for.
  useEffect(() => {
    top.current = frame.current?.contentWindow?.scrollY ?? 0;
  }, [version]);
  return (
    <iframe
      ref={frame}
      id={REPORT_FRAME}
      title="Report preview"
      src={`/api/studies/${id}/report.html?inline=true&version=${version}`}
      sandbox="allow-same-origin allow-modals"
      aria-busy={shown !== version}
      className="goes-stale min-h-[420px] min-w-0 grow border border-rule bg-sheet"
      onLoad={() => {
        frame.current?.contentWindow?.scrollTo(0, top.current);
        setShown(version);
      }}
    />
  );
}
