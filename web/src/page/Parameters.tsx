import { Popover } from "radix-ui";
import { Fragment, useState } from "react";

import { AddComment } from "../comments/AddComment";
import { CommentRow } from "../comments/CommentRow";
import type { ComputedFit, Parameter } from "../fits/kinds";
import { useChange, useLooking } from "../study/context";
import { inField, readNumber } from "../ui/numbers";
import { Term } from "../ui/Hint";
import { Symbol } from "../ui/Symbol";
import { NextPlaceButton } from "./NextPlace";
import { BoundsForm, LetterForm } from "./ParameterForms";

/** Each parameter with its meaning, value, standard error, unit and relative error. */
export function Parameters({ fit }: { fit: ComputedFit }) {
  const looking = useLooking();
  if (!fit.parameters.length) return null;
  return (
    <table className="numerals mt-1 w-full text-plain">
      <caption className="sr-only">Parameters of fit {fit.letter}</caption>
      <thead className="sr-only">
        <tr>
          <th scope="col">Parameter</th>
          <th scope="col">Value and standard error</th>
          <th scope="col">Unit</th>
          <th scope="col">Relative standard error</th>
          {looking && <th scope="col">Comment</th>}
        </tr>
      </thead>
      <tbody>
        {fit.parameters.map((parameter) => (
          <Fragment key={parameter.name}>
            <tr>
              <th scope="row" className="py-[3px] text-left font-normal">
                <Term
                  word={
                    <span className="font-book">
                      {wordOf(parameter.name, parameter.symbol)} <Symbol text={parameter.symbol} />
                    </span>
                  }
                  meaning={<Details parameter={parameter} />}
                />
              </th>
              <td className="py-[3px] text-right whitespace-nowrap">
                {looking ? parameter.text : <ParameterValue fit={fit} parameter={parameter} />}
              </td>
              <td className="py-[3px] pl-2 font-book text-mute">{parameter.unit}</td>
              <td className="py-[3px] pl-2 text-right text-note text-mute">{parameter.relative}</td>
              {looking && (
                <td className="no-print pl-1">
                  <AddComment
                    about={aboutParameter(fit, parameter)}
                    place={`${wordOf(parameter.name, parameter.symbol) || parameter.symbol} of fit ${fit.letter}`}
                    word=""
                  />
                </td>
              )}
            </tr>
            <CommentRow columns={looking ? 5 : 4} about={aboutParameter(fit, parameter)} />
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

const aboutParameter = (fit: ComputedFit, { name }: Parameter) => `parameter:${fit.letter}:${name}`;

/** All of it as the cells of a labelled table, with the digits that are shown or, if wanted, with all of them. */
export function parameterCells(fit: ComputedFit, all = false): string[][] {
  const rows = fit.parameters.map((one) => {
    const [value, error] = all ? [one.full, one.full_error] : [one.value, one.uncertainty];
    return [wordOf(one.name, one.symbol) || one.symbol, one.symbol, value, error || (one.fixed ? "fixed" : ""), one.unit, one.interval];
  });
  return [["parameter", "symbol", "value", "standard error", "unit", "confidence interval"], ...rows];
}

function Details({ parameter }: { parameter: Parameter }) {
  return (
    <span className="grid gap-0.5">
      {parameter.meaning && <span>{parameter.meaning[0]!.toUpperCase() + parameter.meaning.slice(1)}.</span>}
      {parameter.fixed && <span>Fixed at this value, not fitted.</span>}
      {parameter.interval && <span className="numerals">{parameter.interval}</span>}
      {parameter.asymmetric && <span>These are unequal limits; ± would be misleading.</span>}
      {parameter.t_test && <span className="numerals">{parameter.t_test}</span>}
      <span className="numerals break-all">
        In full: {parameter.full}
        {parameter.full_error && ` ± ${parameter.full_error}`}
      </span>
    </span>
  );
}

/** The name of a parameter where it is more than its letter. */
const wordOf = (name: string, symbol: string) => (name === symbol || /^.\d*$/.test(name) ? "" : name.replace(/_/g, " "));

/** A parameter's value, which opens the choice between fitted and fixed. */
function ParameterValue({ fit, parameter }: { fit: ComputedFit; parameter: Parameter }) {
  const change = useChange();
  const [open, setOpen] = useState(false);
  const name = wordOf(parameter.name, parameter.symbol) || parameter.symbol;
  const fixedAt = fit.fixed[parameter.name];
  const others = Object.fromEntries(Object.entries(fit.fixed).filter(([key]) => key !== parameter.name));
  const [text, setText] = useState("0");
  const [wrong, setWrong] = useState("");
  const bound = fit.bounds.find((one) => one.name === parameter.name);
  const keep = () => {
    const value = readNumber(text);
    if (value === null) {
      setWrong(`'${text}' is not a number.`);
      return;
    }
    setOpen(false);
    change({ kind: "set_fit", letter: fit.letter, fixed: { ...others, [parameter.name]: value } });
  };
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setText(fixedAt === undefined ? (parameter.name === "intercept" ? "0" : parameter.full.replaceAll("-", "−")) : inField(fixedAt));
        setWrong("");
        setOpen(next);
      }}
    >
      <Popover.Trigger asChild>
        <button
          className="-my-px rounded-sm border border-transparent px-1 hover:border-rule"
          aria-label={`${name} ${parameter.value}: fit or fix`}
        >
          {parameter.fixed && fit.kind !== "hand" && <span className="mr-1.5 text-note text-mute">fixed at</span>}
          {bound && <span className="mr-1.5 text-note text-mute">bounded</span>}
          {parameter.text}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} collisionPadding={8} className="floating w-64" aria-label={name}>
          <form
            className="grid gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              keep();
            }}
          >
            <label className="flex items-center justify-between gap-2">
              Fix {name} at
              <input
                className="field numerals w-24 text-right"
                inputMode="decimal"
                value={text}
                aria-invalid={wrong !== ""}
                aria-describedby={wrong ? "parameter-wrong" : undefined}
                onChange={(event) => setText(event.target.value)}
              />
            </label>
            {wrong && (
              <p id="parameter-wrong" role="alert" className="text-plain text-amber">
                {wrong}
              </p>
            )}
            <div className="flex justify-end gap-2">
              {fixedAt !== undefined && (
                <button
                  type="button"
                  className="button"
                  onClick={() => {
                    setOpen(false);
                    change({ kind: "set_fit", letter: fit.letter, fixed: others });
                  }}
                >
                  Fit again
                </button>
              )}
              <button className="button-main">Fix</button>
            </div>
          </form>
          {fit.kind === "fit" && !parameter.fixed && (
            <NextPlaceButton of={`parameter:${fit.letter}:${parameter.name}`} onDone={() => setOpen(false)} />
          )}
          {fit.kind === "fit" && <BoundsForm fit={fit} name={parameter.name} word={name} onDone={() => setOpen(false)} />}
          <LetterForm fit={fit} parameter={parameter} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
