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

function unquote(cell: string): string {
  const trimmed = cell.trim();
  const quoted = /^"((?:[^"]|"")*)"$/.exec(trimmed);
  return quoted ? quoted[1]!.replace(/""/g, '"') : trimmed;
}
