"""Taking in a whole table that was pasted or read from text."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, StringConstraints

from ridge.core.wording.numbers import group
from ridge.exchange.tables import LONGEST, NoTable, TextTable, read_text_table
from ridge.studies.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.changes.cells import Cell, refuse_too_many_rows
from ridge.studies.changes.columns import ColumnSettings, Name, Role, Symbol, Unit
from ridge.studies.state import LIMITS, ColumnState, StudyState, new_key


class TakenColumn(Schema):
    """What the user made of one column of the table."""

    name: Name
    symbol: Symbol
    unit: Unit
    role: Role


class TakeTable(Change):
    """Take in a table from its text, as it was understood: in place of the readings, or below them."""

    kind: Literal["take_table"] = "take_table"
    text: Annotated[str, StringConstraints(max_length=LONGEST)]
    separator: Literal["tab", "semicolon", "comma", "spaces"]
    decimal: Literal["point", "comma"]
    header: bool
    columns: Annotated[list[TakenColumn], Field(min_length=1)]
    where: Literal["replace", "below"] = "replace"
    new_keys: list[str] = Field(default_factory=lambda: [new_key() for _ in range(LIMITS["columns"] + 2)])

    def apply(self, state: StudyState) -> Outcome:
        try:
            table = read_text_table(self.text, self.separator, self.decimal, self.header)
        except NoTable as reason:
            raise ChangeRefused(str(reason)) from None
        if len(table.columns) != len(self.columns):
            raise ChangeRefused("The table has other columns than were shown. Paste it again.")
        if len(self.columns) > LIMITS["columns"]:
            raise ChangeRefused(
                f"A study holds {LIMITS['columns']} columns at most; this table has {len(self.columns)}."
            )
        columns = self._columns(state, table)
        if len(columns) > LIMITS["columns"]:
            raise ChangeRefused(f"A study holds {LIMITS['columns']} columns at most; this would make {len(columns)}.")
        refuse_too_many_rows(len(columns[0].cells))
        inverse = PutTable.like(
            columns=[PutColumn.of(column) for column in state.columns], aside=sorted(state.aside.items())
        )
        aside = {} if self.where == "replace" else dict(state.aside)
        count = table.row_count
        label = f"take in {group(str(count))} row{'' if count == 1 else 's'}"
        return Outcome(replace(state, columns=tuple(columns), aside=aside), inverse, label)

    def _columns(self, state: StudyState, table: TextTable) -> list[ColumnState]:
        keys = iter(self.new_keys)
        roles = [column.role for column in self.columns if column.role != "other"]
        if len(set(roles)) != len(roles):
            raise ChangeRefused("Only one column can be x, and one y; the same goes for uncertainties and weights.")
        taken = [
            ColumnState(next(keys), wanted.name, wanted.symbol, wanted.unit, wanted.role, column.cells)
            for wanted, column in zip(self.columns, table.columns, strict=True)
        ]
        if any(len(cell) > LIMITS["cell"] for column in taken for cell in column.cells):
            raise ChangeRefused(f"A cell holds {LIMITS['cell']} characters at most.")
        if self.where == "below":
            return self._below(state, taken, table.row_count)
        for role in ("y", "x"):
            if role not in roles:
                taken.insert(
                    0 if role == "x" else 1, ColumnState(next(keys), "", "", "", role, ("",) * table.row_count)
                )
        return taken

    def _below(self, state: StudyState, taken: list[ColumnState], rows: int) -> list[ColumnState]:
        """Each column under the one of its role; others become new columns."""
        filled = state.row_count
        while filled and not any(column.cells[filled - 1] for column in state.columns):
            filled -= 1
        columns = []
        by_role = {column.role: column for column in taken if column.role != "other"}
        for column in state.columns:
            new = by_role.pop(column.role, None) if column.role != "other" else None
            cells = new.cells if new else ("",) * rows
            columns.append(replace(column, cells=column.cells[:filled] + cells))
        rest = [column for column in taken if column.role == "other" or column.role in by_role]
        return columns + [replace(column, cells=("",) * filled + column.cells) for column in rest]


class PutColumn(ColumnSettings):
    cells: list[Cell]

    @classmethod
    def of(cls, column: ColumnState) -> PutColumn:
        return cls(
            key=column.key, name=column.name, symbol=column.symbol, unit=column.unit, role=column.role, cells=list(column.cells)  # type: ignore[arg-type]
        )  # fmt: skip


class PutTable(Change):
    """The whole table as it was."""

    kind: Literal["put_table"] = "put_table"
    columns: Annotated[list[PutColumn], Field(min_length=2, max_length=LIMITS["columns"])]
    aside: list[tuple[int, str]] = Field(default_factory=list)

    def apply(self, state: StudyState) -> Outcome:
        columns = tuple(ColumnState(c.key, c.name, c.symbol, c.unit, c.role, tuple(c.cells)) for c in self.columns)
        heights = {len(column.cells) for column in columns}
        if len(heights) != 1 or not {"x", "y"} <= {column.role for column in columns}:
            raise ChangeRefused("A table needs an x and a y column of the same length.")
        refuse_too_many_rows(heights.pop())
        rows = len(columns[0].cells)
        inverse = PutTable.like(
            columns=[PutColumn.of(column) for column in state.columns], aside=sorted(state.aside.items())
        )
        aside = {row: reason for row, reason in self.aside if 0 <= row < rows}
        return Outcome(replace(state, columns=columns, aside=aside), inverse, "put the table back")
