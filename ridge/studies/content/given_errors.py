"""The standard uncertainty of each value of a column: from a column beside it, from what was typed for the whole column, or carried from
what it is calculated from."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from ridge.core.carrying import CURVED, Step, carry, simulated
from ridge.core.errors import FormulaError
from ridge.core.formula import parse
from ridge.core.formula.parse import called_curves, same_name
from ridge.core.formula.tree import Name, Node, names_in, substitute
from ridge.core.numerals import capital
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.exchange.cells import NotANumber
from ridge.studies.content.columns import FIT_NAME, ColumnValues, FitValues, first_filled, names_for_formulas
from ridge.studies.content.state import ColumnState, StudyState
from ridge.studies.content.uncertainties import CARRIED, in_percent, last_digit, read_uncertainty

Values = Mapping[str, ColumnValues]
_TRIED = 8
"""Rows that are simulated to see whether first order is a good rule."""


@dataclass(frozen=True)
class GivenErrors:
    """``numbers``: one standard uncertainty a row, None where none is given. ``share``: the share of each value that they are, where it
    is the same for all. ``column``: the one that they stand in, with the rows in which what stands there is ``wrong``. ``problem``:
    what is wrong with what was typed for the whole column. ``how`` they were given, where not as standard uncertainties."""

    numbers: Array | None = None
    share: float | None = None
    column: ColumnState | None = None
    wrong: Mapping[int, str] = field(default_factory=dict)
    problem: str = ""
    how: str = ""


@dataclass(frozen=True)
class Carried:
    """What a calculated column has from its sources. ``problem``: why it has no uncertainty, empty if it has one. ``poor``: the row (from
    0) where first order is the poorest rule, with the standard uncertainty that a simulation gives there; None where it is good."""

    step: Step | None = None
    problem: str = ""
    poor: tuple[int, float] | None = None


def given_errors(
    state: StudyState, column: ColumnState, values: Values, fits: Mapping[str, FitValues] | None = None
) -> GivenErrors:
    """The uncertainties of one column. ``values`` of all columns by their keys."""
    beside = first_filled(state.columns, f"{column.role}_error") if column.role in ("x", "y") else None
    if beside is not None:
        return _beside(beside, values[beside.key], values[column.key].numbers)
    if column.uncertainty.strip().lower() == CARRIED and column.formula:
        found = carried(state, column, values, fits)
        if found.step is None or found.problem:
            return GivenErrors(problem=found.problem)
        return GivenErrors(found.step.standard_error, how="carried from what it is calculated from")
    try:
        typed = read_uncertainty(column.uncertainty)
        if not typed.parts:
            return GivenErrors()
        digit = last_digit(column.cells, column.exponent) if typed.needs_digits else np.nan
    except NotANumber as problem:
        return GivenErrors(problem=f"{capital(str(problem))}.")
    if typed.needs_digits and np.isnan(digit):
        return GivenErrors(problem="No number in this column shows a last digit.")
    how = "" if typed.plain else typed.text
    return GivenErrors(typed.standard(values[column.key].numbers, digit), typed.share, how=how)


def _beside(column: ColumnState, found: ColumnValues, of: Array) -> GivenErrors:
    """The uncertainties in a column of their own: plain numbers, per cent where that is its unit, or whatever may be typed for one."""
    numbers = np.array(found.numbers)
    share = None
    if column.unit == "%":
        share = _same_share(numbers)
        numbers = in_percent(numbers, of)
    wrong = dict(found.wrong)
    unit = 10.0**column.exponent
    for row, message in found.wrong.items():
        try:
            typed = read_uncertainty(column.cells[row])
        except NotANumber:
            wrong[row] = message
            continue
        if typed.needs_digits or column.unit == "%":
            continue
        numbers[row] = typed.standard(of[row : row + 1] / unit)[0] * unit
        del wrong[row]
    numbers.setflags(write=False)
    return GivenErrors(numbers, share, column, wrong)


def _same_share(per_cent: Array) -> float | None:
    """The share of y that an uncertainty in per cent is, where it is the same in every row."""
    known = per_cent[np.isfinite(per_cent)]
    return float(known[0]) / 100 if len(known) and np.ptp(known) == 0 and known[0] > 0 else None


def carried(
    state: StudyState,
    column: ColumnState,
    values: Values,
    fits: Mapping[str, FitValues] | None = None,
    *,
    tried: bool = False,
) -> Carried:
    """The uncertainty and the unit of a calculated column from those of what it is calculated from; ``tried``: also against a
    simulation."""
    chain = _Chain(state, values, fits)
    try:
        name = chain.take(column)
    except (_NotCarried, FormulaError) as problem:
        return Carried(problem=str(problem))
    found = carry(chain.formulas, chain.sources, state.row_count, correlations=chain.correlations, units=chain.units)[
        name
    ]
    if not chain.uncertain:
        return Carried(found, "Nothing that it is calculated from has an uncertainty.")
    return Carried(found, poor=chain.poorest(name, found) if tried else None)


class _NotCarried(Exception):
    """Why no uncertainty is carried."""


class _Chain:
    """The formulas behind a calculated column, first those that others use, and what they begin from."""

    def __init__(self, state: StudyState, values: Values, fits: Mapping[str, FitValues] | None) -> None:
        self._state, self._values, self._fits = state, values, fits
        self._columns = names_for_formulas(state)
        self._names = {column.key: f"column_{place}" for place, column in enumerate(state.columns)}
        self._under_way: set[str] = set()
        self.formulas: dict[str, Node] = {}
        self.sources: dict[str, tuple[Array | float, Array | float]] = {}
        self.correlations: dict[tuple[str, str], float] = {}
        self.units: dict[str, str] = {}
        self.uncertain = False

    def take(self, column: ColumnState) -> str:
        """Put a calculated column and all behind it into the chain; its name there."""
        own = self._names[column.key]
        if own in self.formulas:
            return own
        if column.key in self._under_way or self._values[column.key].problem:
            raise _NotCarried("It cannot be calculated.")
        self._under_way.add(column.key)
        letters = [fit.letter for fit in self._state.fits if same_name(fit.letter) not in self._columns]
        if called := called_curves(column.formula, letters, alone=True):
            raise _NotCarried(f"The uncertainty of the curve of fit {called[0]} is not carried into a column.")
        tree = parse(column.formula, "row").tree
        renamed = {name: Name(self._source(name)) for name in names_in(tree)}
        self.formulas[own] = substitute(tree, renamed)
        self._under_way.discard(column.key)
        return own

    def _source(self, name: str) -> str:
        """The name in the chain of what stands in a formula."""
        other = self._columns.get(same_name(name))
        if other is not None and other.formula and other.uncertainty.strip().lower() in ("", CARRIED):
            found = self.take(other)
            if other.unit:
                self.units[found] = other.unit
            return found
        if other is not None:
            own = self._names[other.key]
            numbers = given_errors(self._state, other, self._values, self._fits).numbers
            self._put(own, self._values[other.key].numbers, 0.0 if numbers is None else numbers)
            self.units[own] = other.unit
            return own
        match = FIT_NAME.fullmatch(name)
        if match and match[2] and self._fits and match[1] in self._fits:
            return self._parameter(match[1], match[2], self._fits[match[1]].fit)
        if match:
            raise _NotCarried(f"The uncertainty of the curve of fit {match[1]} is not carried into a column.")
        self._put("row", np.arange(1.0, self._state.row_count + 1), 0.0)
        return "row"

    def _put(self, name: str, value: Array | float, error: Array | float) -> None:
        self.sources[name] = (value, error)
        self.uncertain = self.uncertain or bool(np.any(np.nan_to_num(error) > 0))

    def _parameter(self, letter: str, name: str, fit: Fit) -> str:
        own = f"{letter}_{name}"
        error = fit.parameters[name].standard_error
        self._put(own, fit.values[name], error if error is not None and np.isfinite(error) else 0.0)
        order = list(fit.parameters)
        for other in order:
            r = fit.correlations[order.index(name), order.index(other)]
            if other != name and np.isfinite(r):
                self.correlations[own, f"{letter}_{other}"] = float(np.clip(r, -1, 1))
        return own

    def poorest(self, name: str, found: Step) -> tuple[int, float] | None:
        """The row where a simulation differs most from first order, of the most uncertain ones, if by more than a tenth."""
        with np.errstate(all="ignore"):
            wide = np.where(np.isfinite(found.value), found.standard_error / np.abs(found.value), np.nan)
        order = np.argsort(-np.nan_to_num(wide, nan=-1.0), kind="stable")
        rows = [
            int(row)
            for row in order[:_TRIED]
            if found.standard_error[row] > 0 and np.isfinite(found.standard_error[row])
        ]
        if not rows:
            return None
        drawn = simulated(self.formulas, self.sources, name, rows, self.correlations)
        off = np.abs(drawn / found.standard_error[rows] - 1)
        worst = int(np.argmax(off))
        return (rows[worst], float(drawn[worst])) if off[worst] > CURVED else None
