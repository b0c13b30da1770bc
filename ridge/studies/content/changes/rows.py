"""Whole rows: sorting, taking out empty ones, and writing single cells wherever they stand."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, Literal

import numpy as np
from ninja import Schema
from pydantic import Field

from ridge.core.numerals import group
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.cells import DeleteRows
from ridge.studies.content.changes.columns import called, find_column
from ridge.studies.content.changes.refusals import refuse_calculated, refuse_too_many_rows
from ridge.studies.content.changes.whole_table import PutTable, cut_back, lost_from
from ridge.studies.content.columns import column_values
from ridge.studies.content.fields import Cell, Key, Row, RowCount
from ridge.studies.content.state import StudyState


class SortRows(Change):
    """All rows in the order of one column: numbers by size, then texts, then empty cells."""

    kind: Literal["sort_rows"] = "sort_rows"
    key: Key
    descending: bool = False

    def apply(self, state: StudyState) -> Outcome:
        at = find_column(state, self.key)
        column = state.columns[at]
        numbers = column_values(state)[column.key].numbers

        def rank(row: int) -> tuple[int, float, str]:
            if not np.isnan(numbers[row]):
                return 0, -numbers[row] if self.descending else numbers[row], ""
            return (1, 0.0, column.cells[row]) if column.cells[row].strip() else (2, 0.0, "")

        order = sorted(range(state.row_count), key=rank)
        if order == list(range(state.row_count)):
            raise ChangeRefused(f"The rows are in the order of {called(column)} already.")
        outcome = PutOrder(order=order).apply(state)
        return replace(outcome, label=f"sort by {called(column)}{', largest first' if self.descending else ''}")


class PutOrder(Change):
    """The rows in a given order: ``order[i]`` is the row that comes to place i."""

    kind: Literal["put_order"] = "put_order"
    order: list[Row]

    def apply(self, state: StudyState) -> Outcome:
        if sorted(self.order) != list(range(state.row_count)):
            raise ChangeRefused("This order does not belong to this table.")
        back = [0] * len(self.order)
        for place, row in enumerate(self.order):
            back[row] = place

        def moved(marks: Mapping[int, str]) -> dict[int, str]:
            return dict(sorted((back[row], reason) for row, reason in marks.items()))

        columns = tuple(replace(c, cells=tuple(c.cells[row] for row in self.order)) for c in state.columns)
        changed = replace(state, columns=columns, aside=moved(state.aside), assumed=moved(state.assumed))
        return Outcome(changed, PutOrder(order=back), "put the rows back in order")


class RemoveEmptyRows(Change):
    """Take out every row in which nothing is typed."""

    kind: Literal["remove_empty_rows"] = "remove_empty_rows"

    def apply(self, state: StudyState) -> Outcome:
        typed = [column.cells for column in state.columns if not column.formula]
        empty = [row for row in range(state.row_count) if not any(cells[row].strip() for cells in typed)]
        if not empty:
            raise ChangeRefused("No row is empty.")
        outcome = DeleteRows(rows=empty).apply(state)
        count = len(empty)
        return replace(outcome, label=f"remove {group(str(count))} empty row{'' if count == 1 else 's'}")


class WrittenCell(Schema):
    row: Row
    key: Key
    text: Cell


class WriteCells(Change):
    """Write single cells, making rows as needed: a reading dragged on the plot, or added there.

    ``rows_after`` cuts the table back: that is how the inverse takes away a row that was added.
    """

    kind: Literal["write_cells"] = "write_cells"
    cells: Annotated[list[WrittenCell], Field(min_length=1, max_length=1000)]
    what: Literal["move", "add", "write"] = "write"
    rows_after: RowCount | None = None

    def apply(self, state: StudyState) -> Outcome:
        last = max(cell.row for cell in self.cells)
        rows = max(state.row_count, last + 1)
        refuse_too_many_rows(rows)
        columns = [replace(c, cells=c.cells + ("",) * (rows - len(c.cells))) for c in state.columns]
        before = []
        changed: dict[int, list[str]] = {}
        for cell in self.cells:
            at = find_column(state, cell.key)
            refuse_calculated(state.columns[at])
            texts = changed.setdefault(at, list(columns[at].cells))
            before.append(WrittenCell(row=cell.row, key=cell.key, text=texts[cell.row]))
            texts[cell.row] = cell.text
        for at, texts in changed.items():
            columns[at] = replace(columns[at], cells=tuple(texts))
        after = cut_back(replace(state, columns=tuple(columns)), self.rows_after)
        inverse: Change = WriteCells(cells=before[::-1], what=self.what, rows_after=state.row_count)
        if lost_from(state, after):
            inverse = PutTable.of(state)
        row = f"row {self.cells[0].row + 1}"
        label = {"move": f"move the reading in {row}", "add": f"add a reading in {row}", "write": f"write in {row}"}
        return Outcome(after, inverse, label[self.what])
