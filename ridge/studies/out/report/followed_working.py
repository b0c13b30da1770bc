"""A working as a part of the report: its steps without the detail that the screen folds."""

from __future__ import annotations

from collections.abc import Iterator

from ridge.core.errors import RidgeError
from ridge.core.wording.working_steps import Grid as NumberGrid
from ridge.core.wording.working_steps import WordedStep
from ridge.core.wording.working_symbols import Line
from ridge.core.wording.working_text import grid_latex, grid_text
from ridge.exchange.cells import NotANumber
from ridge.exchange.report.content import NUMBER, TEXT, Block, Formula, Grid, Heading, Kind, Paragraph, Run, Text
from ridge.studies.analysis.followed import Wanted, follow
from ridge.studies.content.state import ReportPart
from ridge.studies.out.report.source import Source
from ridge.studies.words.working_words import refusal_of


def working(source: Source, part: ReportPart) -> Iterator[Block]:
    """Heading, then sentence, equations and table of each step; or why there is no such working any more."""
    wanted = Wanted(part.of, part.what, part.form, part.places, part.x, part.y)
    try:
        made = follow(source.state, wanted)
    except (RidgeError, NotANumber) as problem:
        yield Paragraph(refusal_of(source.state, wanted, problem), "caution")
        return
    yield Heading(part.heading or made.title)
    for step in made.worded:
        if not step.folded:
            yield from _step(step)


def _step(step: WordedStep) -> Iterator[Block]:
    grid = step.grid
    sentence = step.sentence
    if step.holds is not None:
        sentence = sentence.removesuffix(":").removesuffix(".") + (": agrees." if step.holds else ": differs.")
    if grid is not None and grid.look == "matrix" and len(grid.heads) > 1:
        sentence = f"{sentence.removesuffix(':')} (columns: {', '.join(head.text for head in grid.heads)}):"
    table = grid is not None and grid.look == "table"
    if sentence and not table:
        yield Paragraph(sentence, "title" if step.lines or grid else "plain")
    for line in step.lines:
        yield Formula(line.text, line.latex)
    if grid is not None:
        yield _table(grid, sentence) if table else Formula(grid_text(grid), grid_latex(grid))


def _set(symbol: Line) -> Text:
    """A heading: words as words, anything else typeset."""
    words = symbol.latex.startswith(r"\text{") or (symbol.latex == symbol.text and not symbol.text.isalpha())
    return symbol.text if words else (Run(symbol.latex, "formula"),)


def _table(grid: NumberGrid, caption: str) -> Grid:
    labelled = any(label.text for label in grid.labels)
    head = tuple(_set(one) for one in grid.heads)
    rows = [tuple("" if cell is None else cell.number.text for cell in row) for row in grid.cells]
    labels = [_set(one) for one in grid.labels]
    gap = next((place for place in range(1, len(grid.rows)) if grid.rows[place] != grid.rows[place - 1] + 1), None)
    if gap is not None:
        rows.insert(gap, ("…",) * len(grid.heads))
        labels.insert(gap, "…")
    if grid.sums:
        rows.append(tuple("" if cell is None else cell.number.text for cell in grid.sums))
        labels.append("Σ")
    kinds: tuple[Kind, ...] = (NUMBER,) * len(head)
    if not labelled:
        return Grid(caption.removesuffix(":") + ".", head, tuple(rows), kinds)
    whole: list[tuple[Text, ...]] = [(label, *row) for label, row in zip(labels, rows, strict=True)]
    return Grid(caption.removesuffix(":").removesuffix(".") + ".", ("", *head), tuple(whole), (TEXT, *kinds))
