"""Taking in a whole table that was pasted or read from text."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, StringConstraints

from ridge.core.wording.numbers import group
from ridge.exchange.tables import LONGEST, WIDEST, NoTable, read_text_table
from ridge.studies.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.changes.cells import Cell, refuse_too_many_rows
from ridge.studies.changes.columns import ColumnSettings, Name, Role, Symbol, Unit
from ridge.studies.state import LIMITS, ColumnState, StudyState, new_key


class TakenColumn(Schema):
    """What the user made of one column of the table; the role "skip" leaves it out.

    ``elapsed``: the unit in which dates or clock times become elapsed time; empty to leave them as they are.
    """

    name: Name
    symbol: Symbol
    unit: Unit
    role: Role | Literal["skip"]
    elapsed: Literal["s", "min", "h", "d", ""] | None = None


class TakeTable(Change):
    """Take in a table from its text, as it was understood: in place of the readings, or below them."""

    kind: Literal["take_table"] = "take_table"
    text: Annotated[str, StringConstraints(max_length=LONGEST)]
    separator: Literal["tab", "semicolon", "comma", "spaces"]
    decimal: Literal["point", "comma"]
    header: Annotated[int, Field(ge=0, le=1000)]
    day_first: bool | None = None
    columns: Annotated[list[TakenColumn], Field(min_length=1, max_length=WIDEST)]
    where: Literal["replace", "below"] = "replace"
    new_keys: list[str] = Field(default_factory=lambda: [new_key() for _ in range(WIDEST + 3)])

    def apply(self, state: StudyState) -> Outcome:
        taken = self.read()
        inverse = PutTable.of(state)
        columns = self._below(state, taken) if self.where == "below" else taken
        if len(columns) > LIMITS["columns"]:
            raise ChangeRefused(f"A study holds {LIMITS['columns']} columns at most; this would make {len(columns)}.")
        refuse_too_many_rows(len(columns[0].cells))
        if self.where == "replace":
            state = replace(state, aside={}, assumed={})
        count = len(taken[0].cells)
        label = f"import {group(str(count))} row{'' if count == 1 else 's'}"
        return Outcome(replace(state, columns=tuple(columns)), inverse, label)

    def read(self) -> list[ColumnState]:
        """The columns of the table as they are taken, one x and one y among them. Raises ChangeRefused."""
        keys = iter(self.new_keys)
        taken = self._chosen(keys)
        roles = [column.role for column in taken]
        if roles.count("y") > 1:
            taken = stack_series(taken, keys)
            roles = [column.role for column in taken]
        single = [role for role in roles if role not in ("other", "series")]
        if len(set(single)) != len(single) or roles.count("series") > 1:
            raise ChangeRefused("Only one column can be x; the same goes for uncertainties, weights and counts.")
        rows = len(taken[0].cells) if taken else 0
        for role in ("y", "x"):
            if role not in roles:
                taken.insert(0 if role == "x" else 1, ColumnState(next(keys), "", "", "", role, ("",) * rows))
        return taken

    def _chosen(self, keys: Iterator[str]) -> list[ColumnState]:
        elapsed = {i: column.elapsed for i, column in enumerate(self.columns) if column.elapsed is not None}
        try:
            table = read_text_table(self.text, self.separator, self.decimal, self.header, self.day_first, elapsed)
        except NoTable as reason:
            raise ChangeRefused(str(reason)) from None
        if len(table.columns) != len(self.columns):
            raise ChangeRefused("The table has other columns than were shown. Paste it again.")
        taken = [
            ColumnState(next(keys), wanted.name, wanted.symbol, wanted.unit, wanted.role, column.cells)
            for wanted, column in zip(self.columns, table.columns, strict=True)
            if wanted.role != "skip"
        ]
        if not taken:
            raise ChangeRefused("No column is chosen. Say which one is x and which one is y.")
        if any(len(cell) > LIMITS["cell"] for column in taken for cell in column.cells):
            raise ChangeRefused(f"A cell holds {LIMITS['cell']} characters at most.")
        return taken

    def _below(self, state: StudyState, taken: list[ColumnState]) -> list[ColumnState]:
        """Each column under the one of its role; others become new columns."""
        rows = len(taken[0].cells)
        filled = state.filled_rows
        columns = []
        by_role = {column.role: column for column in taken if column.role != "other"}
        for column in state.columns:
            new = by_role.pop(column.role, None) if column.role != "other" and not column.formula else None
            cells = new.cells if new else ("",) * rows
            columns.append(replace(column, cells=column.cells[:filled] + cells))
        rest = [column for column in taken if column.role == "other" or column.role in by_role]
        rest = [column for column in rest if any(column.cells)]
        return columns + [replace(column, cells=("",) * filled + column.cells) for column in rest]


def stack_series(columns: list[ColumnState], keys: Iterator[str]) -> list[ColumnState]:
    """Several y columns, each with the x before it (or the first x), stacked into one x, one y and a series column.

    What follows a y as its uncertainty goes with it; weights, counts and other columns are repeated for every series.
    Rows of a series without a y are left out.
    """
    blocks = _blocks(columns)
    beside = [column for column in columns if column.role in ("weight", "count", "other")]
    rows: list[tuple[int, int]] = [
        (block, row) for block, one in enumerate(blocks) for row, cell in enumerate(one["y"].cells) if cell.strip()
    ]
    labels = _labels([one["y"] for one in blocks])
    stacked = []
    for role in ("x", "y", "x_error", "y_error"):
        held = [one.get(role) for one in blocks]
        first = next((column for column in held if column is not None), None)
        if first is not None:
            cells = tuple(column.cells[row] if (column := held[block]) else "" for block, row in rows)
            name = first.name if role != "y" or len({one["y"].name for one in blocks}) == 1 else ""
            symbol = first.symbol if role != "y" or len({one["y"].symbol for one in blocks}) == 1 else ""
            # A weighted fit needs every uncertainty: those of some series only are kept, but not used.
            whole = all(column is not None for column in held)
            stacked.append(replace(first, name=name, symbol=symbol, cells=cells, role=role if whole else "other"))
    series = ColumnState(next(keys), "series", "", "", "series", tuple(labels[block] for block, _ in rows))
    others = [replace(column, cells=tuple(column.cells[row] for _, row in rows)) for column in beside]
    return [*stacked, series, *others]


def _blocks(columns: list[ColumnState]) -> list[dict[str, ColumnState]]:
    """The columns of each series by their role."""
    blocks: list[dict[str, ColumnState]] = []
    shared: dict[str, ColumnState] = {}
    for column in columns:
        if column.role == "x":
            shared = {"x": column}
        elif column.role == "y":
            blocks.append({**shared, "y": column})
        elif column.role == "x_error":
            shared = {**shared, "x_error": column}
        elif column.role == "y_error" and blocks:
            blocks[-1]["y_error"] = column
    first = next((column for column in columns if column.role == "x"), None)
    if first is None:
        raise ChangeRefused("Several y columns need an x: say which column it is.")
    return [{"x": first, **one} for one in blocks]


def _labels(columns: list[ColumnState]) -> list[str]:
    names = [column.name or column.symbol or f"series {place + 1}" for place, column in enumerate(columns)]
    if len(set(names)) < len(names):
        names = [f"{column.name} {column.symbol}".strip() or name for column, name in zip(columns, names, strict=True)]
    return [name if names.count(name) == 1 else f"{name} {place + 1}" for place, name in enumerate(names)]


class PutColumn(ColumnSettings):
    cells: list[Cell]

    @classmethod
    def of(cls, column: ColumnState) -> PutColumn:
        return cls.model_validate({**vars(column), "cells": list(column.cells)})


class PutTable(Change):
    """The whole table as it was."""

    kind: Literal["put_table"] = "put_table"
    columns: Annotated[list[PutColumn], Field(min_length=2, max_length=LIMITS["columns"])]
    aside: list[tuple[int, str]] = Field(default_factory=list)
    assumed: list[tuple[int, str]] = Field(default_factory=list)

    @classmethod
    def of(cls, state: StudyState) -> PutTable:
        return cls.like(
            columns=[PutColumn.of(column) for column in state.columns],
            aside=sorted(state.aside.items()),
            assumed=sorted(state.assumed.items()),
        )

    def apply(self, state: StudyState) -> Outcome:
        columns = tuple(ColumnState(**{**c.model_dump(), "cells": tuple(c.cells)}) for c in self.columns)
        heights = {len(column.cells) for column in columns}
        if len(heights) != 1 or not {"x", "y"} <= {column.role for column in columns}:
            raise ChangeRefused("A table needs an x and a y column of the same length.")
        refuse_too_many_rows(heights.pop())
        rows = len(columns[0].cells)
        aside, assumed = (
            {row: reason for row, reason in marks if 0 <= row < rows} for marks in (self.aside, self.assumed)
        )
        changed = replace(state, columns=columns, aside=aside, assumed=assumed)
        return Outcome(changed, PutTable.of(state), "put the table back")
