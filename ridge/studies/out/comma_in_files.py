"""Reports and tables with a decimal comma in all that Ridge says in them."""

from __future__ import annotations

from dataclasses import replace

from ridge.core.wording.decimal_sign import Typed, equation_in_comma, in_comma, latex_in_comma
from ridge.exchange.data_files import Sheet
from ridge.exchange.figure import FigureContent
from ridge.exchange.report.content import NUMBER, Block, Formula, Grid, Heading, Listing, Paragraph, Picture, Run, Text


def figure_in_comma(content: FigureContent) -> FigureContent:
    """The figure with a decimal comma at its ticks and in its equations."""
    x, y, residual = (replace(one, comma=True) for one in (content.x_axis, content.y_axis, content.residual_axis))
    curves = tuple(
        replace(one, equation=equation_in_comma(one.equation), latex=latex_in_comma(one.latex))
        for one in content.curves
    )
    return replace(content, x_axis=x, y_axis=y, residual_axis=residual, curves=curves)


def sheet_in_comma(sheet: Sheet, typed: Typed) -> Sheet:
    """A table whose texts are sentences; its numbers stay numbers."""
    columns = [
        [in_comma(cell, typed) if isinstance(cell, str) else cell for cell in column] for column in sheet.columns
    ]
    return replace(sheet, columns=columns)


def block_in_comma(block: Block, typed: Typed) -> Block:
    """A block of a report; headings, what is asked and references stay as they are."""
    match block:
        case Paragraph(kind="lead") | Heading() | Listing():
            return block
        case Paragraph():
            return replace(block, text=_text(block.text, typed))
        case Formula():
            return replace(block, text=equation_in_comma(block.text, typed), latex=latex_in_comma(block.latex))
        case Picture():
            return replace(block, alternative=in_comma(block.alternative, typed), caption=_text(block.caption, typed))
        case Grid():
            return _grid(block, typed)


def _grid(grid: Grid, typed: Typed) -> Grid:
    head = tuple(_text(cell, typed) for cell in grid.head)
    rows = tuple(
        tuple(_text(cell, None if kind == NUMBER else typed) for cell, kind in zip(row, grid.kinds, strict=True))
        for row in grid.rows
    )
    return replace(grid, caption=_text(grid.caption, typed), head=head, rows=rows)


def _text(text: Text, typed: Typed) -> Text:
    if isinstance(text, str):
        return in_comma(text, typed)
    return tuple(_run(run, typed) for run in text)


def _run(run: Run, typed: Typed) -> Run:
    return replace(run, text=latex_in_comma(run.text) if run.style == "formula" else in_comma(run.text, typed))
