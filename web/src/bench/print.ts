export const REPORT_FRAME = "report";

/** The report on paper: from its preview where that is open, else from a page of its own that nobody sees. */
export function printReport(study: string) {
  const preview = document.getElementById(REPORT_FRAME);
  if (preview instanceof HTMLIFrameElement) {
    preview.contentWindow?.print();
    return;
  }
  const frame = document.createElement("iframe");
  frame.title = "Report to be printed";
  frame.className = "fixed size-0 border-0";
  frame.setAttribute("sandbox", "allow-same-origin allow-modals");
  frame.src = `/api/studies/${study}/report.html?inline=true`;
  frame.addEventListener("load", () => {
    const paper = frame.contentWindow;
    paper?.addEventListener("afterprint", () => frame.remove());
    paper?.print();
  });
  document.body.append(frame);
}
