"""Typing, pasting and clearing cells; inserting and deleting rows."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Annotated, Literal

from pydantic import Field

from ridge.core.numerals import group, name_rows
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.refusals import refuse_calculated, refuse_too_many_rows
from ridge.studies.content.changes.whole_table import PutTable, cut_back, lost_from
from ridge.studies.content.fields import Cell, ColumnCount, Key, Reason, Row, RowCount
from ridge.studies.content.state import ColumnState, StudyState, new_key

LONGEST_SAID = 24
"""Characters of a cell that the history tells."""


class SetCells(Change):
    """Write a block of texts with its upper left corner at (row, column), making rows and columns as needed.

    ``rows_after`` and ``columns_after`` cut the table back afterwards: that is how the inverse takes away
    what a block that reached beyond the table had added.
    """

    kind: Literal["set_cells"] = "set_cells"
    row: Row
    column: Annotated[int, Field(ge=0, lt=LIMITS["columns"])]
    block: list[list[Cell]]
    new_keys: Annotated[list[Key], Field(max_length=LIMITS["columns"])] = Field(
        default_factory=lambda: [new_key() for _ in range(LIMITS["columns"])]
    )
    rows_after: RowCount | None = None
    columns_after: ColumnCount | None = None

    def apply(self, state: StudyState) -> Outcome:
        height, width = len(self.block), max((len(line) for line in self.block), default=0)
        if width == 0 and self.rows_after is None:
            raise ChangeRefused("There is nothing to write.")
        rows = max(state.row_count, self.row + height)
        refuse_too_many_rows(rows)
        if self.column + width > LIMITS["columns"]:
            raise ChangeRefused(f"A study holds {LIMITS['columns']} columns at most.")
        columns = [replace(c, cells=c.cells + ("",) * (rows - len(c.cells))) for c in state.columns]
        more = max(0, self.column + width - len(columns))
        if more > len(self.new_keys):
            raise ChangeRefused(f"{more} new columns need as many keys.")
        columns += [ColumnState(key, "", "", "", "other", cells=("",) * rows) for key in self.new_keys[:more]]

        for column in columns[self.column : self.column + width]:
            refuse_calculated(column)
        # What lay inside the old table; what this block adds beyond it, the inverse cuts off again.
        old_rows = max(0, min(state.row_count - self.row, height))
        before = [[columns[self.column + j].cells[self.row + i] for j in range(width)] for i in range(old_rows)]
        for j in range(width):
            cells = list(columns[self.column + j].cells)
            for i, line in enumerate(self.block):
                if j < len(line):
                    cells[self.row + i] = line[j]
            columns[self.column + j] = replace(columns[self.column + j], cells=tuple(cells))
        kept = columns if self.columns_after is None else columns[: self.columns_after]
        changed = cut_back(replace(state, columns=tuple(kept)), self.rows_after)
        inverse: Change = SetCells.like(
            row=self.row, column=self.column, block=before, new_keys=[c.key for c in columns[len(state.columns) :]],
            rows_after=state.row_count, columns_after=len(state.columns),
        )  # fmt: skip
        if lost_from(state, changed):
            inverse = PutTable.of(state)
        if height == width == 1:
            label = self._label_of_one(before[0][0] if before else "", columns[self.column])
        else:
            empty = not any(any(line) for line in self.block)
            label = f"{'clear' if empty else 'fill in'} {group(str(height))} × {width} cells from row {self.row + 1}"
        return Outcome(changed, inverse, label)

    def _label_of_one(self, before: str, column: ColumnState) -> str:
        """What was typed where, and what stood there before."""
        name = column.symbol or column.name or f"column {self.column + 1}"
        old, new = (_shortened(text) for text in (before, self.block[0][0]))
        if not new:
            return f"clear {name} of row {self.row + 1}" + (f", {old}" if old else "")
        return f"{name} of row {self.row + 1}: " + (f"{old} → {new}" if old else new)


def _shortened(text: str) -> str:
    return text if len(text) <= LONGEST_SAID else text[: LONGEST_SAID - 1] + "…"


class InsertRows(Change):
    """Empty rows before row ``at``."""

    kind: Literal["insert_rows"] = "insert_rows"
    at: Row
    count: Annotated[int, Field(ge=1, le=10_000)] = 1

    def apply(self, state: StudyState) -> Outcome:
        if self.at > state.row_count:
            raise ChangeRefused("That is beyond the last row.")
        refuse_too_many_rows(state.row_count + self.count)
        gap = ("",) * self.count
        columns = tuple(replace(c, cells=c.cells[: self.at] + gap + c.cells[self.at :]) for c in state.columns)

        def moved(marks: Mapping[int, str]) -> dict[int, str]:
            return {row + (self.count if row >= self.at else 0): reason for row, reason in marks.items()}

        rows = list(range(self.at, self.at + self.count))
        return Outcome(
            replace(state, columns=columns, aside=moved(state.aside), assumed=moved(state.assumed)),
            DeleteRows.like(rows=rows),
            f"insert {name_rows(rows)}",
        )


class DeleteRows(Change):
    """Take rows out; those below move up."""

    kind: Literal["delete_rows"] = "delete_rows"
    rows: Annotated[list[Row], Field(min_length=1)]

    def apply(self, state: StudyState) -> Outcome:
        gone = sorted(set(self.rows))
        if gone[-1] >= state.row_count:
            raise ChangeRefused("That is beyond the last row.")
        going = set(gone)
        kept = [row for row in range(state.row_count) if row not in going]
        columns = tuple(replace(c, cells=tuple(c.cells[row] for row in kept)) for c in state.columns)
        place = {row: new for new, row in enumerate(kept)}

        def moved(marks: Mapping[int, str]) -> dict[int, str]:
            return {place[row]: reason for row, reason in marks.items() if row in place}

        inverse = RestoreRows.like(
            rows=gone,
            cells=[[c.cells[row] for row in gone] for c in state.columns],
            aside=[(row, reason) for row, reason in state.aside.items() if row in going],
            assumed=[(row, reason) for row, reason in state.assumed.items() if row in going],
        )
        changed = replace(state, columns=columns, aside=moved(state.aside), assumed=moved(state.assumed))
        return Outcome(changed, inverse, f"delete {name_rows(gone)}")


class RestoreRows(Change):
    """Put deleted rows back where they were; ``cells`` has one list a column."""

    kind: Literal["restore_rows"] = "restore_rows"
    rows: Annotated[list[Row], Field(min_length=1)]
    cells: list[list[Cell]]
    aside: list[tuple[Row, Reason]] = []
    assumed: list[tuple[Row, Reason]] = []

    def apply(self, state: StudyState) -> Outcome:
        total = state.row_count + len(self.rows)
        refuse_too_many_rows(total)
        if len(self.cells) != len(state.columns) or any(len(cells) != len(self.rows) for cells in self.cells):
            raise ChangeRefused("These rows do not belong to this table.")
        back = set(self.rows)
        marked = {row for row, _ in (*self.aside, *self.assumed)}
        if max(back) >= total or len(back) != len(self.rows) or not marked <= back:
            raise ChangeRefused("These rows do not belong to this table.")
        stay = [row for row in range(total) if row not in back]
        columns = []
        for column, restored in zip(state.columns, self.cells, strict=True):
            cells = [""] * total
            for row, text in zip(stay, column.cells, strict=True):
                cells[row] = text
            for row, text in zip(self.rows, restored, strict=True):
                cells[row] = text
            columns.append(replace(column, cells=tuple(cells)))
        aside = {stay[row]: reason for row, reason in state.aside.items()} | dict(self.aside)
        assumed = {stay[row]: reason for row, reason in state.assumed.items()} | dict(self.assumed)
        return Outcome(
            replace(state, columns=tuple(columns), aside=aside, assumed=assumed),
            DeleteRows.like(rows=self.rows),
            f"bring back {name_rows(sorted(self.rows))}",
        )
