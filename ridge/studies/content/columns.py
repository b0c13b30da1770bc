"""The numbers of a study's columns: read from cells as typed, or calculated by formula from other columns and fits."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from ridge.core.carrying.coherent import FitCurve, in_coherent_units
from ridge.core.decimal_sign import cached
from ridge.core.errors import FormulaError, UnitsDiffer
from ridge.core.formula import Program, parse
from ridge.core.formula.parse import Curve, Parsed, called_curves, same_name
from ridge.core.formula.tree import Comparison, Constant, Name, Node, Number, names_in, walk
from ridge.core.formula.writing import to_text
from ridge.core.numerals import significant
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.exchange.cells import CLOCK_UNITS, NotANumber, read_clock, read_number, read_plain
from ridge.studies.apart import FAILED, Failures
from ridge.studies.content.state import ColumnState, StudyState

MOST_DIGITS, LEAST_DIGITS, OF_A_FIT = 8, 4, 6
"""Significant digits of a calculated cell."""
_LOOKED_AT = 1000
_EXPLAINED = 50  # rows of a column whose missing value is explained one by one
FIT_NAME = re.compile(r"([A-F])(?:_(\w+))?")
"""A fit in a formula, or one of its parameters."""


@dataclass(frozen=True)
class ColumnValues:
    """The numbers of a column, shape (rows,), NaN where there is none; what is wrong by row (from 0), and with the
    column as a whole (an unreadable formula), empty if nothing."""

    numbers: Array
    wrong: Mapping[int, str] = field(default_factory=dict)
    problem: str = ""
    unit: str = ""
    """Of a calculated column without a unit of its own, the unit that follows from its formula."""


@dataclass(frozen=True)
class FitValues:
    """What a formula may use of a fit: its value at every row, shape (rows,), its parameters with their units, and its curve; and the
    fit itself, for the uncertainties of these."""

    values: Array
    parameters: Mapping[str, float]
    curve: Curve
    fit: Fit
    units: Mapping[str, str]

    @classmethod
    def of(cls, fit: Fit, curve: Curve, units: Mapping[str, str]) -> FitValues:
        return cls(fit.fitted, fit.values, curve, fit, units)


@cached(48)
def _read_cells(cells: tuple[str, ...], unit: str, exponent: int) -> ColumnValues:
    wrong: dict[int, str] = {}
    clock = unit in CLOCK_UNITS
    plain = read_plain(cells)
    values = np.full(len(cells), np.nan) if plain is None else np.array(plain)
    for row, text in enumerate(cells if plain is None else ()):
        if text:
            try:
                number = read_clock(text, unit) if clock else read_number(text)
            except NotANumber as problem:
                wrong[row] = str(problem)
            else:
                if number is not None:
                    values[row] = number
    if exponent:
        with np.errstate(over="ignore", under="ignore"):
            values = values * 10.0**exponent if exponent > 0 else values / 10.0**-exponent
    values.setflags(write=False)
    return ColumnValues(values, wrong)


def column_values(state: StudyState, fits: Mapping[str, FitValues] | None = None) -> dict[str, ColumnValues]:
    """The numbers of every column by its key.

    ``fits`` by letter; None while they are not known yet: a column that uses one then has a problem that says so.
    """
    return _Evaluation(state, fits).all()


def limits_of_sense(column: ColumnState) -> tuple[float, float]:
    """Least and greatest value that makes sense, in the column's unit; infinite where none is given. Raises NotANumber."""
    found = _read_cells((column.lowest, column.highest), column.unit, column.exponent)
    for message in found.wrong.values():
        raise NotANumber(f"limits of sense: {message}")
    low, high = (float(value) for value in found.numbers)
    low, high = (-np.inf if np.isnan(low) else low), (np.inf if np.isnan(high) else high)
    if not low < high:
        raise NotANumber("limits of sense: the least value must be smaller than the greatest")
    return low, high


def names_for_formulas(state: StudyState) -> dict[str, ColumnState]:
    """The names by which formulas may call columns: their symbols, and x and y where these columns have none."""
    names: dict[str, ColumnState] = {}
    for column in state.columns:
        name = column.symbol or (column.role if column.role in ("x", "y") else "")
        if re.fullmatch(r"[^\W\d]\w*", name):
            names.setdefault(same_name(name), column)
    return names


def unit_of_numbers(column: ColumnState) -> str:
    """The unit that the numbers of a column count in: of clock times hours or minutes."""
    return CLOCK_UNITS.get(column.unit, column.unit)


def curve_with_units(state: StudyState, curve: Curve) -> FitCurve:
    """Return the curve of a fit in the units of the readings."""
    x, y = (state.column(role) for role in ("x", "y"))
    return FitCurve(
        curve.tree, curve.variable, "" if x is None else unit_of_numbers(x), "" if y is None else unit_of_numbers(y)
    )


class _Evaluation:
    """One pass over the columns; a calculated one calls for those it uses."""

    def __init__(self, state: StudyState, fits: Mapping[str, FitValues] | None) -> None:
        self._state, self._fits = state, fits
        self._names = names_for_formulas(state)
        self._done: dict[str, ColumnValues] = {}
        self._under_way: list[str] = []

    def all(self) -> dict[str, ColumnValues]:
        return {column.key: self._values(column) for column in self._state.columns}

    def _values(self, column: ColumnState) -> ColumnValues:
        if column.key not in self._done:
            if column.formula:
                self._under_way.append(column.key)
                self._done[column.key] = Failures().apart(
                    f"column {column.name or column.symbol}".strip(),
                    lambda: self._calculate(column),
                    lambda: self._failed(FAILED),
                )
                self._under_way.pop()
            else:
                self._done[column.key] = _read_cells(column.cells, column.unit, column.exponent)
        return self._done[column.key]

    def _failed(self, message: str) -> ColumnValues:
        return ColumnValues(np.full(self._state.row_count, np.nan), problem=message)

    def _calculate(self, column: ColumnState) -> ColumnValues:
        rows = self._state.row_count
        try:
            curves = self._curves(column.formula)
            parsed = parse(column.formula, "row", curves=curves)
            inputs: dict[str, Array | float] = {}
            for name in dict.fromkeys((*parsed.names, *names_in(parsed.tree))):
                if name != "row":
                    inputs[name] = self._input(name, column)
        except FormulaError as problem:
            return self._failed(str(problem))
        except _Unusable as problem:
            return self._failed(str(problem))
        try:
            units = self._units(inputs)
            typed = parse(column.formula, "row", curves=tuple((letter, None) for letter, _ in curves)).tree
            called = {letter: curve_with_units(self._state, curve) for letter, curve in curves}
            coherent = in_coherent_units(typed, units, unit_of_numbers(column), curves=called)
        except UnitsDiffer as problem:
            return self._failed(str(problem))
        row_numbers = np.arange(1.0, rows + 1)
        with np.errstate(all="ignore"):
            found = Program([coherent.tree], ("row", *inputs))(row_numbers, *inputs.values())[0]
        numbers = np.array(np.broadcast_to(found, (rows,)), dtype=np.float64)
        given = np.ones(rows, dtype=bool)
        for used in inputs.values():
            given &= np.isfinite(used)
        if not parsed.names and not rows:
            given[:] = False
        bad = np.flatnonzero(given & ~np.isfinite(numbers)).tolist()
        numbers[~np.isfinite(numbers)] = np.nan
        whys = dict(zip(bad[:_EXPLAINED], self._why(parsed, row_numbers, inputs, bad[:_EXPLAINED]), strict=True))
        return ColumnValues(
            numbers,
            {row: whys.get(row, f"{column.formula} has no value here") for row in bad},
            unit="" if column.unit else coherent.unit,
        )

    def _curves(self, formula: str) -> tuple[tuple[str, Curve], ...]:
        """The fits that a formula calls as functions; a column of that symbol goes before."""
        letters = [fit.letter for fit in self._state.fits if same_name(fit.letter) not in self._names]
        found = []
        for letter in called_curves(formula, letters, alone=True):
            if self._fits is None:
                raise _Unusable(f"A column that is fitted cannot use fit {letter}, which would depend on itself.")
            fit = self._fits.get(letter)
            if fit is None:
                raise _Unusable(f"Fit {letter} has no curve: see why on the page.")
            found.append((letter, fit.curve))
        return tuple(found)

    def _units(self, names: Iterable[str]) -> dict[str, str]:
        """The units of what a formula uses, by name; of a fit at the rows that of y."""
        found = {}
        for name in names:
            other = self._names.get(same_name(name))
            match = FIT_NAME.fullmatch(name)
            if other is not None:
                found[name] = unit_of_numbers(other) or (self._values(other).unit if other.formula else "")
            elif match and match[2] and self._fits and match[1] in self._fits:
                found[name] = self._fits[match[1]].units.get(match[2], "")
            elif match and not match[2]:
                measured = self._state.column("y")
                found[name] = "" if measured is None else unit_of_numbers(measured)
        return found

    def _why(self, parsed: Parsed, rows: Array, inputs: Mapping[str, Array | float], bad: Sequence[int]) -> list[str]:
        """For each of some rows the innermost part of a formula that has no value there, and at which values."""
        at = {name: np.broadcast_to(values, rows.shape)[bad] for name, values in inputs.items()}
        culprits: list[Node] = [parsed.tree] * len(bad)
        for part in walk(parsed.tree):
            if isinstance(part, Number | Name | Constant | Comparison):
                continue
            with np.errstate(all="ignore"):
                found = Program([part], ("row", *at))(rows[bad], *at.values())[0]
            for place in np.flatnonzero(~np.isfinite(np.broadcast_to(found, (len(bad),)))).tolist():
                culprits[place] = part
        said = []
        for place, part in enumerate(culprits):
            names = [name for name in names_in(part) if name in at]
            values = ", ".join(f"{name} = {significant(float(at[name][place]), 6, strip=True).text}" for name in names)
            said.append(f"{to_text(part)} has no value{f' at {values}' if values else ' here'}")
        return said

    def _input(self, name: str, column: ColumnState) -> Array | float:
        other = self._names.get(same_name(name))
        if other is not None:
            if other.key in self._under_way:
                raise _Unusable(
                    "The column would be calculated from itself. Use another column."
                    if other.key == column.key
                    else f"{name} is itself calculated from this column. Use another column."
                )
            values = self._values(other)
            if values.problem:
                raise _Unusable(f"{name} cannot be calculated, so neither can this.")
            return values.numbers
        match = FIT_NAME.fullmatch(name)
        if match and any(fit.letter == match[1] for fit in self._state.fits):
            return self._of_fit(match[1], match[2])
        usable = [column.symbol or column.role for key, column in self._names.items()]
        raise _Unusable(
            f"There is no column '{name}'. Available: {', '.join([*usable, 'row'])}, and fits by their letter."
        )

    def _of_fit(self, letter: str, parameter: str | None) -> Array | float:
        if self._fits is None:
            raise _Unusable(f"A column that is fitted cannot use fit {letter}, which would depend on itself.")
        fit = self._fits.get(letter)
        if fit is None:
            raise _Unusable(f"Fit {letter} has no values: see why on the page.")
        if parameter is None:
            return fit.values
        if parameter not in fit.parameters:
            known = ", ".join(f"{letter}_{name}" for name in fit.parameters)
            raise _Unusable(f"Fit {letter} has no parameter {parameter}. Available: {known}.")
        return fit.parameters[parameter]


class _Unusable(Exception):
    """A name in a formula that stands for nothing usable."""


def calculated_texts(numbers: Array, digits: int = MOST_DIGITS) -> tuple[str, ...]:
    """The cells of a calculated column as shown, with as many significant digits."""
    return tuple("" if np.isnan(value) else significant(float(value), digits, strip=True).plain for value in numbers)


def sensible_digits(state: StudyState, column: ColumnState) -> int:
    """Significant digits of a calculated column: two more than the cells that it comes from have, so that none of their
    digits is lost by rounding."""
    most = _digits_of_sources(state, column, ())
    return min(MOST_DIGITS, max(LEAST_DIGITS, most + 2)) if most else OF_A_FIT  # a count, or nothing but a fit


def _digits_of_sources(state: StudyState, column: ColumnState, above: tuple[str, ...]) -> int:
    """The most digits of any cell that a calculated column comes from, directly or through others; 0 where there is none."""
    try:
        names = parse(column.formula, "row").names
    except FormulaError:
        return 0
    sources = names_for_formulas(state)
    most = 0
    for name in names:
        source = sources.get(same_name(name))
        if source is None:  # a fit, which knows more digits than any one reading
            most = max(most, OF_A_FIT - 2)
            continue
        if source.key in above:
            continue
        if source.formula:
            most = max(most, _digits_of_sources(state, source, (*above, source.key)))
            continue
        cells = [cell for cell in source.cells[:_LOOKED_AT] if cell]
        most = max([most, *(len(re.sub(r"[eE×].*|\D", "", cell).lstrip("0")) for cell in cells)])
    return most


def first_filled(columns: Sequence[ColumnState], role: str) -> ColumnState | None:
    """The column of a role that holds anything."""
    held: Iterable[ColumnState] = (c for c in columns if c.role == role)
    return next((c for c in held if c.formula or any(cell.strip() for cell in c.cells)), None)
