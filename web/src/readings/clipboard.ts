import { decimalSign } from "../ui/decimalSign";

/** Blocks of cells as text, the way every table hands them to another. */

export function blockToText(block: string[][]): string {
  return block.map((line) => line.join("\t")).join("\n");
}

/**
 * A pasted text as a block: columns by tabs; without any, by semicolons or else by spaces where every line
 * then has the same number of parts. Cells stay as they were written; reading numbers is the server's work.
 */
export function textToBlock(text: string): string[][] {
  const lines = text.replace(/\r\n?/g, "\n").replace(/\n+$/, "").split("\n");
  if (lines.some((line) => line.includes("\t"))) return lines.map((line) => line.split("\t").map(unquote));
  for (const separator of [/\s*;\s*/, / +/]) {
    const split = lines.map((line) => line.trim().split(separator));
    const width = split[0]?.length ?? 0;
    if (lines.length > 1 && width > 1 && split.every((parts) => parts.length === width)) return split;
  }
  return lines.map((line) => [unquote(line)]);
}

/** Each line one cell: labels, or uncertainties as certificates write them, whose spaces and semicolons part nothing. */
export const linesAsCells = (text: string): string[][] =>
  text
    .replace(/\r\n?/g, "\n")
    .replace(/\n+$/, "")
    .split("\n")
    .map((line) => [unquote(line)]);

const NUMBER = /^[+\-−–]?(?:\d[\d \u00a0\u202f]*(?:[.,]\d*)?|[.,]\d+)(?:\s*(?:[eE]|[×·*x]\s*10\^?)\s*[+\-−⁻⁺⁰¹²³⁴⁵⁶⁷⁸⁹\d]+)?$/;

/** 1,234 may be a decimal or a thousand, and 12 500 one number or two cells. */
const UNCLEAR = /^[+\-−–]?[1-9]\d{0,2},\d{3}$/;
const THOUSANDS = /^[1-9]\d{0,2}( \d{3})+$/;

/**
 * Whether a pasted text can go straight into the cells: one cell, or nothing but numbers that read in one way. A single
 * column whose every cell holds a comma may be two columns, so it is looked through first, unless numbers have one anyway.
 */
export function isPlain(text: string): boolean {
  const block = textToBlock(text);
  const cells = block.flat().filter(Boolean);
  if (cells.length <= 1) return true;
  const commas = block.every((line) => line.length === 1 && (!line[0] || line[0].includes(",")));
  const unclear =
    text
      .split(/\r?\n/)
      .filter(Boolean)
      .every((line) => THOUSANDS.test(line.trim())) || cells.some((cell) => UNCLEAR.test(cell));
  return (!commas || decimalSign() === "comma") && !unclear && cells.every((cell) => NUMBER.test(cell));
}

function unquote(cell: string): string {
  const trimmed = cell.trim();
  const quoted = /^"((?:[^"]|"")*)"$/.exec(trimmed);
  return quoted ? quoted[1]!.replace(/""/g, '"') : trimmed;
}
