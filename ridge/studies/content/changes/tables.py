"""Taking in a whole table that was pasted or read from text."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import Field, StringConstraints, model_validator

from ridge.core.numerals import group
from ridge.exchange.tables import LONGEST, WIDEST, Choices, NoTable, read_text_table
from ridge.exchange.tables.own_files import REASON, STATUS, excluded_rows
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes.base import Change, ChangeRefused, Outcome
from ridge.studies.content.changes.refusals import refuse_calculated, refuse_too_many_rows
from ridge.studies.content.changes.whole_table import PutTable
from ridge.studies.content.fields import Key, Name, Role, Row, Symbol, Unit
from ridge.studies.content.state import ColumnState, StudyState, new_key
from ridge.studies.content.symbols import symbol_problem


class HowRead(Schema):
    """What was chosen about the reading of a table; see ``Choices``."""

    separator: Literal["tab", "semicolon", "comma", "bar", "spaces"] | None = None
    decimal: Literal["point", "comma"] | None = None
    header: Annotated[int, Field(ge=0, le=1000)] | None = None
    day_first: bool | None = None
    table: Annotated[int, Field(ge=0, le=1000)] | None = None
    turned: bool | None = None
    elapsed: dict[int, Literal["s", "min", "h", "d", "h:min", "min:s", "h:min:s", ""]] = Field(default_factory=dict)
    several: Literal["series", "first"] | None = None
    alone: Literal["rows", "y", "x"] | None = None
    numbering: bool | None = None
    fractions: bool | None = None

    @property
    def choices(self) -> Choices:
        return Choices(**{name: getattr(self, name) for name in HowRead.model_fields})


_POWER = re.compile(
    r"[×*·]?\s*10(?:(?:\^|\*\*)\(?([-−+]?\d{1,2})\)?|([⁻⁺]?[⁰¹²³⁴⁵⁶⁷⁸⁹]{1,2}))(?![\d.,])[\s·*]*(?=[^\W\d]|[°%]|$)"
)
"""A power of ten at the beginning of a unit."""
_RAISED = str.maketrans("−⁻⁺⁰¹²³⁴⁵⁶⁷⁸⁹", "--+0123456789")


class TakenColumn(Schema):
    """What the user made of one column of the table; the role "skip" leaves it out."""

    name: Name
    symbol: Symbol
    unit: Unit
    role: Role | Literal["skip"]


class TakeTable(Change, HowRead):
    """Take in a table from its text, as it was understood: in place of the readings, below or beside them, or with its
    upper left corner at a cell."""

    kind: Literal["take_table"] = "take_table"
    text: Annotated[str, StringConstraints(max_length=LONGEST)]
    columns: Annotated[list[TakenColumn], Field(min_length=1, max_length=WIDEST)]
    where: Literal["replace", "below", "beside", "at"] = "replace"
    row: Row = 0
    column: Annotated[int, Field(ge=0, lt=LIMITS["columns"])] = 0
    new_keys: Annotated[list[Key], Field(max_length=WIDEST + 3)] = Field(
        default_factory=lambda: [new_key() for _ in range(WIDEST + 3)]
    )

    @model_validator(mode="before")
    @classmethod
    def _from_older_history(cls, given: Any) -> Any:
        """Changes of earlier versions keep the unit of times with each column."""
        held = given.get("columns") if isinstance(given, dict) else None
        if not isinstance(held, list) or not any(isinstance(column, dict) and "elapsed" in column for column in held):
            return given
        elapsed = {place: column["elapsed"] for place, column in enumerate(held) if column.get("elapsed") is not None}
        return {
            **given,
            "elapsed": elapsed,
            "columns": [{k: v for k, v in column.items() if k != "elapsed"} for column in held],
        }

    def apply(self, state: StudyState) -> Outcome:
        taken = self.read() if self.where in ("replace", "below") else self._chosen(self._keys())
        taken, excluded = _without_status(taken)
        inverse = PutTable.of(state)
        filled = state.filled_rows
        put = {"replace": self._replace, "below": self._below, "beside": self._beside, "at": self._at}
        columns = _with_own_symbols(put[self.where](state, taken), {column.key for column in state.columns})
        if len(columns) > LIMITS["columns"]:
            raise ChangeRefused(f"A study holds {LIMITS['columns']} columns at most; this would make {len(columns)}.")
        refuse_too_many_rows(len(columns[0].cells))
        if self.where == "replace":
            state = replace(state, aside=excluded, assumed={})
        elif self.where == "below" and excluded:
            state = replace(state, aside={**state.aside, **{filled + row: why for row, why in excluded.items()}})
        count = len(taken[0].cells)
        label = f"import {group(str(count))} row{'' if count == 1 else 's'}"
        return Outcome(replace(state, columns=tuple(columns)), inverse, label)

    def read(self) -> list[ColumnState]:
        """The columns of the table as they are taken, one x and one y among them. Raises ChangeRefused."""
        keys = self._keys()
        taken = self._chosen(keys)
        rows = len(taken[0].cells) if taken else 0
        if self.alone == "rows" and not any(column.role == "x" for column in taken):
            numbers = tuple(str(row + 1) for row in range(rows))
            taken.insert(0, ColumnState(next(keys), "number", "", "", "x", cells=numbers))
        roles = [column.role for column in taken]
        if roles.count("y") > 1:
            taken = stack_series(taken, keys)
            roles = [column.role for column in taken]
            rows = len(taken[0].cells)
        single = [role for role in roles if role not in ("other", "series")]
        if len(set(single)) != len(single) or roles.count("series") > 1:
            raise ChangeRefused("Only one column can be x; the same goes for uncertainties, weights and counts.")
        for role in ("y", "x"):
            if role not in roles:
                taken.insert(0 if role == "x" else 1, ColumnState(next(keys), "", "", "", role, cells=("",) * rows))
        return taken

    def _keys(self) -> Iterator[str]:
        yield from self.new_keys
        raise ChangeRefused(f"The table has more columns than keys were given for ({len(self.new_keys)}).")

    def _chosen(self, keys: Iterator[str]) -> list[ColumnState]:
        wanted = frozenset(place for place, column in enumerate(self.columns) if column.role != "skip")
        try:
            table = read_text_table(self.text, self.choices, wanted)
        except NoTable as reason:
            raise ChangeRefused(str(reason)) from None
        if len(table.columns) != len(self.columns):
            raise ChangeRefused("The table has other columns than were shown. Paste it again.")
        if not wanted:
            raise ChangeRefused("No column is chosen. Say which one is x and which one is y.")
        if table.nothing:
            raise ChangeRefused(table.nothing)
        taken = [
            self._column(next(keys), given, given.role, column.cells)
            for given, column in zip(self.columns, table.columns, strict=True)
            if given.role != "skip"
        ]
        if any(len(cell) > LIMITS["cell"] for column in taken for cell in column.cells):
            raise ChangeRefused(f"A cell holds {LIMITS['cell']} characters at most.")
        return taken

    def _column(self, key: str, given: TakenColumn, role: Role, cells: tuple[str, ...]) -> ColumnState:
        """A column; a power of ten before its unit (``10^14 Hz``) becomes its multiplier. Below others the cells count as theirs do."""
        power = _POWER.match(given.unit) if self.where != "below" else None
        if power is None:
            return ColumnState(key, given.name, given.symbol, given.unit, role, cells=cells)
        exponent = int((power[1] or power[2]).translate(_RAISED))
        unit = given.unit[power.end() :].strip()
        return ColumnState(key, given.name, given.symbol, unit, role, exponent=exponent, cells=cells)

    def _replace(self, state: StudyState, taken: list[ColumnState]) -> list[ColumnState]:
        return taken

    def _beside(self, state: StudyState, taken: list[ColumnState]) -> list[ColumnState]:
        """The columns to the right, row by row; one whose role is held already is a label."""
        rows = max(state.row_count, len(taken[0].cells))
        held = {column.role for column in state.columns}
        columns = [
            *state.columns,
            *(column if column.role not in held else replace(column, role="other") for column in taken),
        ]
        return [replace(column, cells=column.cells + ("",) * (rows - len(column.cells))) for column in columns]

    def _at(self, state: StudyState, taken: list[ColumnState]) -> list[ColumnState]:
        """The cells written from a cell on; a column that was empty and nameless takes the heading as well."""
        if self.column > len(state.columns):
            raise ChangeRefused("That is beyond the last column.")
        rows = max(state.row_count, self.row + len(taken[0].cells))
        refuse_too_many_rows(rows)
        columns = [replace(column, cells=column.cells + ("",) * (rows - len(column.cells))) for column in state.columns]
        for place, new in enumerate(taken, self.column):
            if place >= len(columns):
                held = {column.role for column in columns}
                columns.append(replace(new, cells=("",) * rows, role="other" if new.role in held else new.role))
            old = columns[place]
            refuse_calculated(old)
            if not (old.name or old.symbol or old.unit or any(old.cells)):
                old = replace(old, name=new.name, symbol=new.symbol, unit=new.unit)
            cells = list(old.cells)
            cells[self.row : self.row + len(new.cells)] = new.cells
            columns[place] = replace(old, cells=tuple(cells))
        return columns

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


def _without_status(taken: list[ColumnState]) -> tuple[list[ColumnState], dict[int, str]]:
    """The columns without those by which Ridge's own files say which rows are excluded, and these rows with their reasons."""
    named = {f"{column.name} {column.symbol}".strip(): column for column in taken if column.role == "other"}
    status, reason = named.get(STATUS), named.get(REASON)
    if status is None:
        return taken, {}
    excluded = excluded_rows(status.cells, () if reason is None else reason.cells)
    if excluded is None:
        return taken, {}
    return [column for column in taken if column is not status and column is not reason], excluded


def stack_series(columns: list[ColumnState], keys: Iterator[str]) -> list[ColumnState]:
    """Several y columns, each with the x before it (or the first x), stacked into one x, one y and a series column.

    What follows a y as its uncertainty goes with it; weights, counts and other columns are repeated for every series.
    Rows of a series without a y are left out.
    """
    if not any(column.role == "x" for column in columns):
        raise ChangeRefused("Several y columns need an x: say which column it is.")
    blocks = [{role: columns[at] for role, at in one.items()} for one in series_of([column.role for column in columns])]
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
    series = ColumnState(next(keys), "series", "", "", "series", cells=tuple(labels[block] for block, _ in rows))
    others = [replace(column, cells=tuple(column.cells[row] for _, row in rows)) for column in beside]
    return [*stacked, series, *others]


def _with_own_symbols(columns: list[ColumnState], held: set[str]) -> list[ColumnState]:
    """The columns; a symbol of a new one that formulas cannot use, or that another column has, goes into its name."""
    found: list[ColumnState] = []
    taken = [column.symbol for column in columns if column.key in held]
    for column in columns:
        if column.key not in held and symbol_problem(column.symbol, taken)[0]:
            column = replace(column, name=f"{column.name} {column.symbol}".strip()[:100], symbol="")
        taken.append(column.symbol)
        found.append(column)
    return found


def series_of(roles: Sequence[str]) -> list[dict[str, int]]:
    """The places of the columns of each series by their role. One x belongs to every y; of as many x as y each belongs to
    the y of the same place; of others the one before it, or the first. An uncertainty belongs to the column before it."""
    xs = [place for place, role in enumerate(roles) if role == "x"]
    ys = [place for place, role in enumerate(roles) if role == "y"]
    found: list[dict[str, int]] = []
    for place, y in enumerate(ys):
        before = [x for x in xs if x < y]
        own = xs[place : place + 1] if len(xs) == len(ys) else before[-1:] or xs[:1]
        found.append({"x": own[0], "y": y} if own else {"y": y})
    for at, role in enumerate(roles):
        if role not in ("x_error", "y_error"):
            continue
        held = xs if role == "x_error" else ys
        owner = max((place for place in held if place < at), default=min(held, default=-1))
        for one in found:
            if one.get(role[0]) == owner:
                one[role] = at
    return found


def _labels(columns: list[ColumnState]) -> list[str]:
    names = [column.name or column.symbol or f"series {place + 1}" for place, column in enumerate(columns)]
    if len(set(names)) < len(names):
        names = [f"{column.name} {column.symbol}".strip() or name for column, name in zip(columns, names, strict=True)]
    return [name if names.count(name) == 1 else f"{name} {place + 1}" for place, name in enumerate(names)]
