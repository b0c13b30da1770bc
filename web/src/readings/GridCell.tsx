import { cellInSign } from "../ui/decimalSign";
import { CornerHandle } from "./CornerHandle";
import type { RowProps } from "./GridRow";

interface Props extends RowProps {
  text: string;
  col: number;
}

/** A cell: its text, marked where something is wrong with it; the active one is a field. */
export function GridCell(props: Props) {
  const { row, col, text, latest } = props;
  const active = col === props.activeCol;
  const wrong = col === props.problemColumn;
  const missing = props.noValue.split("\0")[col];
  const inBlock = col >= props.litFrom && col <= props.litTo;
  const first = props.corners.includes("top") && col === props.litFrom;
  const last = props.corners.includes("bottom") && col === props.litTo;
  const unknown = col === props.xColumn && props.unknown && !text;
  const shown = unknown ? `→ ${props.unknown}` : missing ? "no value" : cellInSign(text).replace(/^-(?=[\d.,])/, "−");
  /** Something else than what was typed stands there. */
  const instead = unknown || Boolean(missing);
  const faulty = "text-amber underline decoration-wavy decoration-1 underline-offset-2";
  const tone = wrong || missing ? faulty : props.aside !== undefined ? "text-mute" : props.calculated[col] === "1" ? "italic" : "";
  return (
    <span
      role="gridcell"
      aria-colindex={col + 2}
      data-cell={`${row} ${col}`}
      title={missing ? `Row ${row + 1}: ${missing}` : undefined}
      aria-selected={inBlock}
      aria-invalid={wrong || undefined}
      onPointerDown={(event) => {
        // A finger may be about to scroll: it chooses with the click instead.
        if ((props.caret && active) || event.pointerType !== "mouse") return;
        event.preventDefault();
        latest.current.finish(true);
        latest.current.go({ row, col }, event.shiftKey);
      }}
      onClick={({ nativeEvent }) => {
        if (active || (nativeEvent instanceof PointerEvent && nativeEvent.pointerType === "mouse")) return;
        latest.current.finish(true);
        latest.current.go({ row, col });
      }}
      onPointerEnter={(event) => event.buttons === 1 && event.pointerType === "mouse" && latest.current.go({ row, col }, true)}
      onDoubleClick={() => active && latest.current.edit()}
      className={`relative flex items-center border-l border-rule/70 ${inBlock && !active ? "bg-block" : ""} ${first || last ? "z-[1]" : "overflow-hidden"}`}
    >
      {active ? (
        <ActiveCell {...props} instead={instead ? shown : ""} tone={tone} />
      ) : (
        <span className={`w-full truncate px-2 text-right ${tone} ${instead ? "text-pine italic" : ""}`}>{shown}</span>
      )}
      {first && <CornerHandle end="top" latest={latest} />}
      {last && <CornerHandle end="bottom" latest={latest} />}
    </span>
  );
}

interface ActiveProps extends Props {
  /** What stands there where nothing was typed. */
  instead: string;
  tone: string;
}

function ActiveCell({ row, col, text, instead, tone, latest, input, labels, caret, editing, modes, calculated }: ActiveProps) {
  return (
    <input
      ref={input}
      aria-label={`${labels[col]}, row ${row + 1}`}
      data-editing={caret}
      value={editing ?? cellInSign(text)}
      placeholder={instead || undefined}
      inputMode={modes.split(" ")[col] === "decimal" ? "decimal" : "text"}
      autoComplete="off"
      spellCheck={false}
      maxLength={200}
      readOnly={calculated[col] === "1"}
      onChange={(event) => latest.current.type(event.target.value)}
      onKeyDown={(event) => latest.current.onKeyDown(event)}
      onBlur={() => latest.current.finish(true)}
      onCopy={(event) => latest.current.onCopy(event, false)}
      onCut={(event) => latest.current.onCopy(event, true)}
      onPaste={(event) => latest.current.onPaste(event)}
      className={`size-full scroll-mt-12 bg-sheet px-2 text-right outline-2 -outline-offset-2 outline-pine placeholder:text-pine placeholder:italic ${tone}`}
    />
  );
}
