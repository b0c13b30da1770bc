"""From cells to readings: which row is what, and what is wrong with it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from ridge.core import Readings
from ridge.core.readings import Array
from ridge.core.wording.naming import Naming
from ridge.exchange.cells import NotANumber, read_number
from ridge.studies.state import ColumnState, StudyState

Statuses = npt.NDArray[np.int8]


class Status(IntEnum):
    """What a row is."""

    BLANK = 0
    USED = 1
    ASIDE = 2
    PROBLEM = 3
    UNKNOWN = 4


@dataclass(frozen=True)
class CellProblem:
    """Why a row takes no part; ``column`` is the key of the cell to look at."""

    row: int
    column: str
    message: str


@dataclass(frozen=True)
class Unknown:
    """Rows (from 0) with a y but no x that belong to one sample, with its label."""

    rows: tuple[int, ...]
    label: str
    values: tuple[float, ...]


@dataclass(frozen=True)
class Table:
    """The readings of a study, read from its cells. Arrays have one entry a row."""

    readings: Readings
    status: Statuses
    problems: tuple[CellProblem, ...]
    unknowns: tuple[Unknown, ...]
    naming: Naming

    def count(self, status: Status) -> int:
        return int((self.status == status).sum())


@lru_cache(maxsize=48)
def _numbers(cells: tuple[str, ...]) -> tuple[Array, dict[int, str]]:
    """The numbers of a column, NaN where there is none, and what is wrong by row."""
    values = np.full(len(cells), np.nan)
    wrong: dict[int, str] = {}
    for row, text in enumerate(cells):
        if text:
            try:
                number = read_number(text)
            except NotANumber as problem:
                wrong[row] = str(problem)
            else:
                if number is not None:
                    values[row] = number
    values.setflags(write=False)
    return values, wrong


def read_naming(state: StudyState) -> Naming:
    """Names, symbols and units of the x and the y column."""
    x, y = state.column("x"), state.column("y")
    assert x is not None and y is not None
    return Naming(x.symbol or "x", y.symbol or "y", x.unit, y.unit, x.name, y.name)


def read_table(state: StudyState) -> Table:
    """Read every row of a study. Nothing is guessed: what cannot be read is listed."""
    x_column, y_column = state.column("x"), state.column("y")
    assert x_column is not None and y_column is not None
    rows = state.row_count
    x, x_wrong = _numbers(x_column.cells)
    y, y_wrong = _numbers(y_column.cells)
    naming = read_naming(state)
    status = np.full(rows, Status.USED, dtype=np.int8)
    problems: dict[int, CellProblem] = {}

    def put(row: int, column: ColumnState, message: str) -> None:
        problems.setdefault(row, CellProblem(row, column.key, f"Row {row + 1}: {message}."))

    for wrong, column in ((x_wrong, x_column), (y_wrong, y_column)):
        for row, message in wrong.items():
            put(row, column, message)
    no_x, no_y = np.isnan(x), np.isnan(y)
    for row in np.flatnonzero(no_y & ~no_x).tolist():
        put(row, y_column, f"no {naming.y}")
    status[no_x & no_y] = Status.BLANK
    status[no_x & ~no_y] = Status.UNKNOWN

    errors: dict[str, Array | None] = {"x_error": None, "y_error": None, "weight": None}
    for role in errors:
        given = next((c for c in state.columns if c.role == role and any(cell.strip() for cell in c.cells)), None)
        if given is None:
            continue
        values, wrong = _numbers(given.cells)
        errors[role] = values
        for row, message in wrong.items():
            put(row, given, message)
        if role == "x_error":
            continue  # not used by the fit, so a gap in it does no harm
        word = "weight" if role == "weight" else f"uncertainty of {naming.y}"
        measured = status == Status.USED
        for row in np.flatnonzero(measured & np.isnan(values)).tolist():
            put(row, given, f"no {word}")
        for row in np.flatnonzero(measured & (values <= 0)).tolist():
            put(row, given, f"the {word} has to be above zero")

    for row in problems:
        status[row] = Status.PROBLEM
    for row in state.aside:
        if row < rows and status[row] not in (Status.BLANK, Status.PROBLEM):
            status[row] = Status.ASIDE
    readings = Readings(
        x, y, errors["x_error"], errors["y_error"], errors["weight"], status == Status.USED,
        absolute_errors=state.absolute_errors and errors["y_error"] is not None,
    )  # fmt: skip
    return Table(
        readings, status, tuple(problems[row] for row in sorted(problems)), _unknowns(state, status, y), naming
    )


def _unknowns(state: StudyState, status: Statuses, y: Array) -> tuple[Unknown, ...]:
    """Rows without x, those with the same label taken together as repeats of one sample."""
    labels = state.column("other")
    groups: dict[tuple[str, int], list[int]] = {}
    for row in np.flatnonzero(status == Status.UNKNOWN).tolist():
        label = labels.cells[row].strip() if labels else ""
        groups.setdefault((label, -1 if label else row), []).append(row)
    return tuple(
        Unknown(tuple(rows), label, tuple(float(y[row]) for row in rows)) for (label, _), rows in groups.items()
    )
