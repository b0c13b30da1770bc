"""From cells to readings: which row is what, and what is wrong with it."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import IntEnum
from functools import cached_property

import numpy as np
import numpy.typing as npt

from ridge.core.carrying import SharedError
from ridge.core.decimal_sign import Sign, decimal_sign
from ridge.core.numerals import capital
from ridge.core.readings import Array, Mask, Readings
from ridge.core.wording.naming import Naming
from ridge.core.wording.readings import before_fit
from ridge.exchange.cells import CLOCK_UNITS, NotANumber
from ridge.studies.apart import FAILED
from ridge.studies.content.columns import ColumnValues, column_values, first_filled, limits_of_sense
from ridge.studies.content.given_errors import Shared, given_errors
from ridge.studies.content.state import ColumnState, StudyState
from ridge.studies.content.uncertainties import read_uncertainty

Statuses = npt.NDArray[np.int8]


class Status(IntEnum):
    """What a row is."""

    BLANK = 0
    USED = 1
    ASIDE = 2
    PROBLEM = 3
    UNKNOWN = 4
    UNKNOWN_ASIDE = 5
    """An unknown sample that is excluded. It has no x, so nothing that draws excluded readings may take it."""


@dataclass(frozen=True)
class CellProblem:
    """Why a row takes no part; ``column`` is the key of the cell to look at. ``incomplete``: whether nothing is wrong with
    what stands in it, but something is missing, as while one types."""

    row: int
    column: str
    what: str
    incomplete: bool = False

    @property
    def message(self) -> str:
        return f"Row {self.row + 1}: {self.what}."


@dataclass(frozen=True)
class Unknown:
    """Rows (from 0) with a y but no x that belong to one sample, with its label."""

    rows: tuple[int, ...]
    label: str
    values: tuple[float, ...]


@dataclass(frozen=True)
class Series:
    """Which row belongs to which series: an index into ``names``, -1 for none, shape (rows,)."""

    names: tuple[str, ...]
    indices: npt.NDArray[np.int32]

    def rows_of(self, name: str) -> Mask:
        mask: Mask = self.indices == self.names.index(name)
        return mask


@dataclass(frozen=True)
class Table:
    """The readings of a study, read from its cells. Arrays have one entry a row.

    ``column_problems``: what is wrong with a column as a whole, by its key. ``failures``: columns, in words, that failed in a
    way nobody foresaw. ``how_uncertain``: a sentence on how uncertainties were given, where not as standard uncertainties. ``shared``:
    what all readings share of them.
    """

    readings: Readings
    status: Statuses
    problems: tuple[CellProblem, ...]
    column_problems: Mapping[str, str]
    unknowns: tuple[Unknown, ...]
    series: Series | None
    naming: Naming
    failures: tuple[str, ...] = ()
    how_uncertain: str = ""
    shared: tuple[SharedError, ...] = ()

    def count(self, status: Status) -> int:
        return int((self.status == status).sum())

    @cached_property
    def before_fit(self) -> str:
        """How closely x and y go together, before any model."""
        return before_fit(self.readings, self.naming)


def read_naming(state: StudyState) -> Naming:
    """Names, symbols and units of the x and the y column; of a clock unit the one its numbers are counted in."""
    x, y = state.column("x"), state.column("y")
    assert x is not None and y is not None
    x_unit, y_unit = (CLOCK_UNITS.get(column.unit, column.unit) for column in (x, y))
    letters = tuple(sorted(state.letters.items()))
    x_clock, y_clock = (column.unit if column.unit in CLOCK_UNITS else "" for column in (x, y))
    return Naming(
        x.symbol or "x", y.symbol or "y", x_unit, y_unit, x.name, y.name, letters, state.rising, _limits(x), _limits(y),
        x_clock, y_clock,
    )  # fmt: skip


def _limits(column: ColumnState) -> tuple[float, float, str]:
    """Limits of sense with the reason; none while they cannot be read, which the column says."""
    try:
        return (*limits_of_sense(column), column.limits_why)
    except NotANumber:
        return (-np.inf, np.inf, "")


def is_clock(state: StudyState, role: str) -> bool:
    """Whether the column with this role is read off a clock."""
    column = state.column(role)
    return column is not None and column.unit in CLOCK_UNITS


def over_axis(state: StudyState, naming: Naming, role: str) -> str:
    """The unit that belongs to the ticks of an axis: that of the clock where they are clock times."""
    column = state.column(role)
    assert column is not None
    return column.unit if is_clock(state, role) else str(getattr(naming, f"{role}_unit"))


_recent: deque[tuple[StudyState, Sign, Table]] = deque(maxlen=4)


def read_table(state: StudyState) -> Table:
    """Read every row of a study. Nothing is guessed: what cannot be read is listed.

    The last few are remembered: a change of a fit leaves the readings as they are.
    """
    sign = decimal_sign()  # what cannot be read is said in it
    for known, said_with, table in list(_recent):
        if said_with == sign and _same_readings(known, state):
            return table
    table = _read(state)
    if not table.failures:
        _recent.append((state, sign, table))
    return table


def _same_readings(one: StudyState, other: StudyState) -> bool:
    """Whether two states hold the very same rows, read in the same way."""
    held = one.columns is other.columns and one.aside is other.aside and one.assumed is other.assumed
    same = (one.absolute_errors, one.letters, one.rising) == (other.absolute_errors, other.letters, other.rising)
    return held and same


def _read(state: StudyState) -> Table:
    x_column, y_column = state.column("x"), state.column("y")
    assert x_column is not None and y_column is not None
    values = column_values(state)
    x, y = values[x_column.key], values[y_column.key]
    rows = state.row_count
    naming = read_naming(state)
    status = np.full(rows, Status.USED, dtype=np.int8)
    problems: dict[int, CellProblem] = {}

    def put(row: int, column: ColumnState, message: str, incomplete: bool = False) -> None:
        problems.setdefault(row, CellProblem(row, column.key, message, incomplete))

    for found, column in ((x, x_column), (y, y_column)):
        for row, message in found.wrong.items():
            put(row, column, message)
    no_x, no_y = np.isnan(x.numbers), np.isnan(y.numbers)
    status[no_x & no_y] = Status.BLANK
    status[no_x & ~no_y] = Status.UNKNOWN
    if x_column.formula or x.problem:
        status[no_x & ~no_y] = Status.BLANK  # an x that cannot be calculated is no unknown
    for row in np.flatnonzero(no_y & ~no_x).tolist():
        if y_column.formula:
            status[row] = Status.BLANK
        else:
            put(row, y_column, f"{naming.y_name or naming.y} missing", True)

    column_problems = {key: one.problem for key, one in values.items() if one.problem}
    for column in (x_column, y_column):
        try:
            limits_of_sense(column)
        except NotANumber as problem:
            column_problems.setdefault(column.key, f"{capital(str(problem))}.")
    errors: dict[str, Array | None] = {}
    share: float | None = None
    relative: Array | float | None = None
    how: list[str] = []
    moving: dict[Shared, dict[str, Array]] = {}
    for axis, column in (("x", x_column), ("y", y_column)):
        given = given_errors(state, column, values)
        if given.problem:
            column_problems.setdefault(column.key, given.problem)
        if given.column is not None and given.numbers is not None:
            _check(
                put,
                given.column,
                ColumnValues(given.numbers, given.wrong),
                status,
                f"uncertainty of {getattr(naming, axis)}",
                gaps=axis == "x",
            )
        if given.how:
            how.append(f"The uncertainty of {getattr(naming, axis)} is given as {given.how}.")
        for key, shift in given.shared.items():
            moving.setdefault(key, {})[axis] = shift
        errors[axis] = given.numbers
        if axis == "y":
            share, relative = given.share, given.relative
    weights = {"weight": "weight", "count": "number of repeats"}
    held: dict[str, Array | None] = dict.fromkeys(weights)
    for role, word in weights.items():
        weighing = first_filled(state.columns, role)
        if weighing is not None:
            found = values[weighing.key]
            wrong = dict(found.wrong)
            if role == "count":
                wrong |= dict.fromkeys(
                    np.flatnonzero(np.nan_to_num(found.numbers) % 1).tolist(), "not a whole number of repeats"
                )
            _check(put, weighing, ColumnValues(found.numbers, wrong), status, word)
            held[role] = (
                np.where(np.nan_to_num(found.numbers) % 1 > 0, np.nan, found.numbers)
                if role == "count"
                else found.numbers
            )

    for row in problems:
        status[row] = Status.PROBLEM
    for row in state.aside:
        if row < rows and status[row] not in (Status.BLANK, Status.PROBLEM):
            status[row] = Status.UNKNOWN_ASIDE if status[row] == Status.UNKNOWN else Status.ASIDE
    assumed = np.zeros(rows, dtype=bool)
    assumed[[row for row in state.assumed if row < rows]] = True
    readings = Readings(
        x.numbers, y.numbers, errors["x"], errors["y"], held["weight"], status == Status.USED,
        absolute_errors=state.absolute_errors and errors["y"] is not None, assumed=assumed, count=held["count"],
        error_share=share, relative_error=relative,
    )  # fmt: skip
    status.setflags(write=False)
    return Table(
        readings, status, tuple(problems[row] for row in sorted(problems)), column_problems,
        _unknowns(state, status, y.numbers), read_series(state), naming,
        tuple(f"column {c.name or c.symbol}" for c in state.columns if values[c.key].problem == FAILED), " ".join(how),
        tuple(_shared(state, key, by) for key, by in moving.items()),
    )  # fmt: skip


def _shared(state: StudyState, key: Shared, by: Mapping[str, Array]) -> SharedError:
    """Under a name that says what is shared, of which column."""
    column = next(column for column in state.columns if column.key == key[0])
    part = read_uncertainty(column.uncertainty).shared[key[1]]
    called = column.symbol or column.name or column.role
    return SharedError(f"{called}, {part.shared_as(column.unit)}", by.get("x"), by.get("y"))


Put = Callable[..., None]


def _check(
    put: Put, column: ColumnState, found: ColumnValues, status: Statuses, word: str, *, gaps: bool = False
) -> None:
    """List the rows whose uncertainty, weight or count cannot be used; ``gaps`` do no harm where no fit uses it."""
    for row, message in found.wrong.items():
        put(row, column, message)
    if gaps:
        return
    measured = status == Status.USED
    for row in np.flatnonzero(measured & np.isnan(found.numbers)).tolist():
        put(row, column, f"no {word}", True)
    for row in np.flatnonzero(measured & (found.numbers <= 0)).tolist():
        put(row, column, f"the {word} has to be above zero")


def read_series(state: StudyState) -> Series | None:
    """The series of each row by the labels of the series column, in order of appearance; None without one."""
    column = state.column("series")
    if column is None:
        return None
    places: dict[str, int] = {}
    indices = np.full(state.row_count, -1, dtype=np.int32)
    for row, cell in enumerate(column.cells):
        if label := cell.strip():
            indices[row] = places.setdefault(label, len(places))
    return Series(tuple(places), indices)


def _unknowns(state: StudyState, status: Statuses, y: Array) -> tuple[Unknown, ...]:
    """Rows without x, those with the same label taken together as repeats of one sample."""
    labels = state.column("other")
    groups: dict[tuple[str, int], list[int]] = {}
    for row in np.flatnonzero(status == Status.UNKNOWN).tolist():
        label = labels.cells[row].strip() if labels and not labels.formula else ""
        groups.setdefault((label, -1 if label else row), []).append(row)
    return tuple(
        Unknown(tuple(rows), label, tuple(float(y[row]) for row in rows)) for (label, _), rows in groups.items()
    )
