"""A table of a text document: hairlines as in books, columns as wide as what they hold."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from docx.document import Document
from docx.enum.table import WD_TABLE_ALIGNMENT
from docx.oxml import OxmlElement
from docx.oxml.ns import qn
from docx.shared import Mm, Pt
from docx.table import Table
from docx.text.paragraph import Paragraph

from ridge.exchange.report.content import Grid, Run, Style, Text, plain_text, runs

_CELL = Pt(9)
_LETTER = 1.95  # mm, of text of this size
_ROOM = 4.0  # mm beside it
_FIGURE_SPACE = "\u2007"
_SHORT = 24
"""Letters up to which a text stays on one line."""

Write = Callable[[Paragraph, Text, Any], None]


def add_table(document: Document, grid: Grid, width: float, together: int, write: Write) -> None:
    """The table no wider than ``width`` mm; one of up to ``together`` rows stays on one page."""
    table = document.add_table(rows=0, cols=len(grid.head))
    table.alignment = WD_TABLE_ALIGNMENT.LEFT
    table.autofit = False
    widths = _widths(grid, width)
    unseen = [grid.before_point(column) if kind == "number" else [] for column, kind in enumerate(grid.kinds)]
    last = len(grid.rows)
    for place, cells in enumerate((grid.head, *grid.rows)):
        row = table.add_row()
        properties = row._tr.get_or_add_trPr()
        properties.append(OxmlElement("w:cantSplit"))
        if place == 0:  # repeated on every page, and told to screen readers as the heading
            properties.append(OxmlElement("w:tblHeader"))
        for column, (cell, text) in enumerate(zip(row.cells, cells, strict=True)):
            cell.width = Mm(widths[column])
            paragraph = cell.paragraphs[0]
            paragraph.paragraph_format.space_after = paragraph.paragraph_format.space_before = Pt(1)
            if place and unseen[column] and plain_text(text):
                paragraph.add_run(_FIGURE_SPACE * len(unseen[column][place - 1])).font.size = _CELL
            write(paragraph, _in_bold(text) if place == 0 else text, _CELL)
            # Short tables stay whole; of long ones neither the first nor the last row stands alone.
            near = last <= together or place in (0, 1, last - 1)
            paragraph.paragraph_format.keep_with_next = near and place < last
    for column, wide in enumerate(widths):
        table.columns[column].width = Mm(wide)
    _rule(table)
    document.add_paragraph().paragraph_format.space_after = Pt(0)


def _in_bold(text: Text) -> Text:
    bold: dict[Style, Style] = {"": "bold", "italic": "bold italic"}
    return tuple(Run(run.text, bold.get(run.style, run.style)) for run in runs(text))


def _widths(grid: Grid, width: float) -> list[float]:
    """What each column needs for its longest short text; long ones share what is left by how much they hold."""
    wide: list[float] = []
    long: list[int] = []
    for column, head in enumerate(grid.head):
        padded = grid.before_point(column) if grid.kinds[column] == "number" else [""] * len(grid.rows)
        longest = max(
            (len(plain_text(row[column]) + pad) for row, pad in zip(grid.rows, padded, strict=True)), default=0
        )
        # A heading may take several lines, but breaks no word.
        word = max((len(part) for part in plain_text(head).split(" ")), default=0)
        if longest > _SHORT and grid.kinds[column] == "text":
            long.append(longest)
            wide.append(0.0)
        else:
            long.append(0)
            wide.append(max(longest, 1.25 * word) * _LETTER + _ROOM)
    left = width - sum(wide)
    if any(long):
        left = max(left, 30.0 * sum(1 for one in long if one))
        needed = [min(one * _LETTER + _ROOM, left * one / sum(long)) for one in long]
        wide = [one or more for one, more in zip(wide, needed, strict=True)]
    total = sum(wide)
    return [one * width / total for one in wide] if total > width else wide


def _rule(table: Table) -> None:
    """A line above, below and under the heading, hairlines between rows."""
    borders = OxmlElement("w:tblBorders")
    for edge, size, color in (("top", 8, "1C2A30"), ("bottom", 8, "1C2A30"), ("insideH", 2, "CDD2CA")):
        line = OxmlElement(f"w:{edge}")
        for name, value in (("val", "single"), ("sz", str(size)), ("space", "0"), ("color", color)):
            line.set(qn(f"w:{name}"), value)
        borders.append(line)
    table._tbl.tblPr.append(borders)
    for cell in table.rows[0].cells:
        under = OxmlElement("w:tcBorders")
        line = OxmlElement("w:bottom")
        for name, value in (("val", "single"), ("sz", "6"), ("space", "0"), ("color", "1C2A30")):
            line.set(qn(f"w:{name}"), value)
        under.append(line)
        cell._tc.get_or_add_tcPr().append(under)
