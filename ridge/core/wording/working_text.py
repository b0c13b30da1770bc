"""A working in words as one piece: text, LaTeX or MathML for the clipboard, notebooks and reports."""

from __future__ import annotations

import re
from collections.abc import Sequence
from html import escape

from latex2mathml.converter import convert

from ridge.core.wording.working_steps import Grid, WordedStep


def as_text(title: str, steps: Sequence[WordedStep]) -> str:
    parts = [title]
    for step in steps:
        if step.sentence:
            parts.append(step.sentence)
        parts += [line.text for line in step.lines]
        if step.grid is not None:
            parts.append(grid_text(step.grid))
        if step.holds is not None:
            parts.append("✓" if step.holds else "✗ These differ.")
    return "\n".join(parts) + "\n"


def grid_text(grid: Grid) -> str:
    """Columns lined up by spaces."""
    heads = [["", *(head.text for head in grid.heads)]] if grid.heads else []
    rows = [
        [label.text, *("" if cell is None else cell.number.text for cell in row)]
        for label, row in zip(grid.labels, grid.cells, strict=True)
    ]
    sums = [["Σ", *("" if cell is None else cell.number.text for cell in grid.sums)]] if grid.sums else []
    lines = [*heads, *rows, *sums]
    widths = [
        max(len(line[place]) for line in lines if place < len(line)) for place in range(max(map(len, lines), default=0))
    ]
    written = ["  ".join(cell.rjust(widths[place]) for place, cell in enumerate(line)).rstrip() for line in lines]
    gap = _gap(grid.rows)
    if gap is not None:
        written.insert(len(heads) + gap, f"… {grid.count - len(grid.rows)} more rows")
    if grid.symbol.text:
        written.insert(0, f"{grid.symbol.text} =")
    return "\n".join(written)


def _gap(shown: Sequence[int]) -> int | None:
    """Before which of those shown some are left out."""
    return next((place for place in range(1, len(shown)) if shown[place] != shown[place - 1] + 1), None)


def grid_latex(grid: Grid) -> str:
    r"""An array: in square brackets of a matrix, under headings of a table."""
    width = len(grid.columns)
    rows = [[r"" if cell is None else cell.number.latex for cell in row] for row in grid.cells]
    gap, across = _gap(grid.rows), _gap(grid.columns)
    if across is not None:
        rows = [[*row[:across], r"\cdots", *row[across:]] for row in rows]
        width += 1
    if gap is not None:
        rows.insert(gap, [r"\vdots"] * width)
    ends = r" \\ "
    body = ends.join(" & ".join(row) for row in rows)
    if grid.look == "matrix":
        spec = "r" * (width - grid.bar) + ("|" + "r" * grid.bar if grid.bar else "")
        left = f"{grid.symbol.latex} = " if grid.symbol.latex else ""
        return rf"{left}\left[\begin{{array}}{{{spec}}}{body}\end{{array}}\right]"
    heads = " & ".join(head.latex for head in grid.heads)
    sums = " & ".join("" if cell is None else cell.number.latex for cell in grid.sums)
    foot = rf" \\ \hline {sums}" if grid.sums else ""
    return rf"\begin{{array}}{{{'r' * width}}}{heads} \\ \hline {body}{foot}\end{{array}}"


def as_latex(title: str, steps: Sequence[WordedStep]) -> str:
    """Paragraphs and displayed equations, for a document with amsmath."""
    return rf"\section*{{{title}}}" + "\n" + "\n".join(step_latex(step) for step in steps) + "\n"


def step_latex(step: WordedStep) -> str:
    parts = [_escaped(step.sentence)] if step.sentence else []
    parts += [rf"\[{line.latex}\]" for line in step.lines]
    if step.grid is not None:
        parts.append(rf"\[{grid_latex(step.grid)}\]")
    return "\n".join(parts)


def _escaped(text: str) -> str:
    return re.sub(r"([%&#_])", r"\\\1", text)


def as_mathml(title: str, steps: Sequence[WordedStep]) -> str:
    """A piece of HTML with MathML."""
    return f"<section><h3>{escape(title)}</h3>{''.join(step_mathml(step) for step in steps)}</section>"


def step_mathml(step: WordedStep) -> str:
    sentence = f"<p>{escape(step.sentence)}</p>" if step.sentence else ""
    lines = "".join(convert(line.latex, display="block") for line in step.lines)
    grid = convert(grid_latex(step.grid), display="block") if step.grid is not None else ""
    return sentence + lines + grid
