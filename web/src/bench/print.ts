import { REPORT_FRAME } from "../lenses/ReportLens";
import { useView } from "../study/view";

/** The page on paper; where the report is being arranged, the report. */
export function print() {
  const frame = useView.getState().lens === "report" ? document.getElementById(REPORT_FRAME) : null;
  const paper = frame instanceof HTMLIFrameElement ? frame.contentWindow : null;
  (paper ?? window).print();
}
