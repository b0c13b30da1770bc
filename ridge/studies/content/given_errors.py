"""The standard uncertainty of each value of a column: from a column beside it, from what was typed for the whole column, or carried from
what it is calculated from."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from ridge.core.carrying import CURVED, Step, carry, simulated
from ridge.core.carrying.coherent import FitCurve
from ridge.core.carrying.propagation import MOST_SIMULATED
from ridge.core.errors import FormulaError, UnitsDiffer
from ridge.core.formula import parse
from ridge.core.formula.parse import Curve, called_curves, same_name
from ridge.core.formula.tree import Call, Name, Node, names_in, substitute
from ridge.core.numerals import capital
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.exchange.cells import NotANumber
from ridge.studies.content.columns import (
    FIT_NAME,
    ColumnValues,
    FitValues,
    curve_with_units,
    first_filled,
    names_for_formulas,
    unit_of_numbers,
)
from ridge.studies.content.state import ColumnState, StudyState
from ridge.studies.content.uncertainties import CARRIED, in_percent, last_digit, read_uncertainty

Values = Mapping[str, ColumnValues]
Shared = tuple[str, int]
"""The key of a column, and the place of one of the parts of its uncertainty that all values share."""
_TRIED = 8
"""Rows that are simulated to see whether first order is a good rule."""


@dataclass(frozen=True)
class GivenErrors:
    """``numbers``: one standard uncertainty a row, None where none is given. ``share``: the share of each value that they are, where it
    is the same for all; ``relative``: the part of each that is a share of its value, as that share. ``column``: the one that they stand in, with the rows in which what stands there is ``wrong``. ``problem``:
    what is wrong with what was typed for the whole column. ``how`` they were given, where not as standard uncertainties. ``shared``: by
    how much one standard uncertainty of what all values share moves each, by the key of the column that it is of and its place there."""

    numbers: Array | None = None
    share: float | None = None
    column: ColumnState | None = None
    wrong: Mapping[int, str] = field(default_factory=dict)
    problem: str = ""
    how: str = ""
    shared: Mapping[Shared, Array] = field(default_factory=dict)
    relative: Array | float | None = None


@dataclass(frozen=True)
class Carried:
    """What a calculated column has from its sources. ``problem``: why it has no uncertainty, empty if it has one. ``poor``: the row (from
    0) where first order is the poorest rule, with the standard uncertainty that a simulation gives there; None where it is good.
    ``each``: whether anything in it is each value's own; ``shared`` as in ``GivenErrors``."""

    step: Step | None = None
    problem: str = ""
    poor: tuple[int, float] | None = None
    each: bool = True
    shared: Mapping[Shared, Array] = field(default_factory=dict)


def given_errors(
    state: StudyState, column: ColumnState, values: Values, fits: Mapping[str, FitValues] | None = None
) -> GivenErrors:
    """The uncertainties of one column. ``values`` of all columns by their keys."""
    beside = first_filled(state.columns, f"{column.role}_error") if column.role in ("x", "y") else None
    own = GivenErrors() if beside is None else _beside(beside, values[beside.key], values[column.key].numbers)
    if column.uncertainty.strip().lower() == CARRIED and column.formula:
        found = carried(state, column, values, fits)
        if found.step is None or found.problem:
            return own if beside is not None else GivenErrors(problem=found.problem)
        if beside is not None:
            return replace(own, shared=found.shared)
        each = found.step.standard_error if found.each else None
        return GivenErrors(each, how="carried from what it is calculated from", shared=found.shared)
    try:
        typed = read_uncertainty(column.uncertainty)
        digit = last_digit(column.cells, column.exponent) if typed.needs_digits else np.nan
    except NotANumber as problem:
        return replace(own, problem=f"{capital(str(problem))}.")
    if typed.needs_digits and np.isnan(digit):
        return replace(own, problem="No number in this column shows a last digit.")
    numbers = values[column.key].numbers
    shared = {(column.key, place): shift for place, shift in enumerate(typed.shifts(numbers, digit))}
    if beside is not None or not typed.parts:
        return replace(own, shared=shared)
    how = "" if typed.plain else typed.text
    return GivenErrors(
        typed.standard(numbers, digit), typed.share, how=how, shared=shared, relative=typed.relative or None
    )


def _beside(column: ColumnState, found: ColumnValues, of: Array) -> GivenErrors:
    """The uncertainties in a column of their own: plain numbers, per cent where that is its unit, or whatever may be typed for one."""
    numbers = np.array(found.numbers)
    share, relative = None, np.zeros(len(numbers))
    if column.unit == "%":
        share = _same_share(numbers)
        relative = np.nan_to_num(numbers) / 100
        numbers = in_percent(numbers, of)
    wrong = dict(found.wrong)
    unit = 10.0**column.exponent
    for row, message in found.wrong.items():
        try:
            typed = read_uncertainty(column.cells[row])
        except NotANumber:
            wrong[row] = message
            continue
        if typed.shared:
            wrong[row] = "what all readings share stands in the settings of the column, not in a cell"
            continue
        if typed.needs_digits or column.unit == "%":
            continue
        numbers[row] = typed.standard(of[row : row + 1] / unit)[0] * unit
        relative[row] = typed.relative
        del wrong[row]
    numbers.setflags(write=False)
    return GivenErrors(numbers, share, column, wrong, relative=relative if relative.any() else None)


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
    chain.tell_readings_of_fits()
    try:
        steps = carry(
            chain.formulas, chain.sources, state.row_count, correlations=chain.correlations, units=chain.units, curves=chain.curves
        )  # fmt: skip
    except UnitsDiffer as problem:
        return Carried(problem=str(problem))
    found = chain.with_simulated(name, steps[name])
    shared = chain.shared_of(found)
    if not chain.uncertain and not shared:
        return Carried(found, "Nothing that it is calculated from has an uncertainty.")
    poor = chain.poorest(name, found) if tried and chain.uncertain else None
    return Carried(found, poor=poor, each=chain.uncertain, shared=shared)


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
        self.correlations: dict[tuple[str, str], float | Array] = {}
        self.units: dict[str, str] = {}
        self.curves: dict[str, FitCurve] = {}
        self.uncertain = False
        self._shifts: dict[Shared, dict[str, Array]] = {}

    def take(self, column: ColumnState) -> str:
        """Put a calculated column and all behind it into the chain; its name there."""
        own = self._names[column.key]
        if own in self.formulas:
            return own
        if column.key in self._under_way or self._values[column.key].problem:
            raise _NotCarried("It cannot be calculated.")
        self._under_way.add(column.key)
        letters = [fit.letter for fit in self._state.fits if same_name(fit.letter) not in self._columns]
        called = called_curves(column.formula, letters, alone=True)
        if column.unit:
            self.units[own] = unit_of_numbers(column)
        tree = parse(column.formula, "row", curves=tuple((letter, None) for letter in called)).tree
        alone = [letter for letter in names_in(tree) if letter in letters]
        for letter in (*called, *alone):
            self._call(letter)
        tree = substitute(tree, {letter: self._at_row(letter) for letter in alone})
        renamed = {name: Name(self._source(name)) for name in names_in(tree)}
        self.formulas[own] = substitute(tree, renamed)
        self._under_way.discard(column.key)
        return own

    def _source(self, name: str) -> str:
        """The name in the chain of what stands in a formula."""
        other = self._columns.get(same_name(name))
        if other is not None and other.formula and other.uncertainty.strip().lower() in ("", CARRIED):
            return self.take(other)
        if other is not None:
            own = self._names[other.key]
            given = given_errors(self._state, other, self._values, self._fits)
            self._put(own, self._values[other.key].numbers, 0.0 if given.numbers is None else given.numbers)
            for key, shift in given.shared.items():
                self._shifts.setdefault(key, {})[own] = shift
            self.units[own] = unit_of_numbers(other)
            return own
        match = FIT_NAME.fullmatch(name)
        if match and match[2]:
            fit = self._fit(match[1])
            self.units[name] = self._fits[match[1]].units.get(match[2], "") if self._fits else ""
            return self._parameter(match[1], match[2], fit)
        self._put("row", np.arange(1.0, self._state.row_count + 1), 0.0)
        return "row"

    def _fit(self, letter: str) -> Fit:
        if not self._fits or letter not in self._fits:
            raise _NotCarried("It cannot be calculated.")
        return self._fits[letter].fit

    def _call(self, letter: str) -> None:
        """Put the curve of a fit into the chain, its parameters as names so that their uncertainties are propagated through it."""
        fit = self._fit(letter)
        named: dict[str, Node] = {name: Name(self._parameter(letter, name, fit)) for name in fit.parameters}
        curve = Curve(substitute(fit.model.expression, named), fit.model.variable)
        self.curves[letter] = curve_with_units(self._state, curve)

    def _at_row(self, letter: str) -> Node:
        """The curve at the x of each row."""
        called = next((name for name, column in self._columns.items() if column.role == "x"), None)
        if called is None:
            raise _NotCarried("The column of x has no symbol that formulas can use.")
        return Call(letter, (Name(called),))

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

    def tell_readings_of_fits(self) -> None:
        """That a fit goes together with the readings that it is made to: cov(yᵢ, p) is that of its own value there with p."""
        y = self._state.column("y")
        own = self._names[y.key] if y is not None else ""
        if own not in self.sources or not self._fits:
            return
        errors = np.broadcast_to(np.asarray(self.sources[own][1], dtype=np.float64), (self._state.row_count,))
        for letter, fit in ((letter, values.fit) for letter, values in self._fits.items()):
            deviation = fit.reading_deviation
            names = [name for name in fit.parameters if f"{letter}_{name}" in self.sources]
            if not names or fit.least_squares_in != "y" or deviation is None:
                continue
            with np.errstate(all="ignore"):
                covariance = fit.model.gradient(fit.readings.x, fit.values) @ fit.unit_covariance * deviation**2
                for name in names:
                    place = list(fit.parameters).index(name)
                    together = covariance[:, place] / (errors * np.sqrt(fit.unit_covariance[place, place]) * deviation)
                    told = np.where(fit.readings.used & np.isfinite(together), np.clip(together, -1, 1), 0.0)
                    self.correlations[own, f"{letter}_{name}"] = told

    def shared_of(self, found: Step) -> dict[Shared, Array]:
        """What the shared errors of the sources do to each value."""
        shared = {}
        for key, moved in self._shifts.items():
            with np.errstate(all="ignore"):
                shift = sum(found.slopes[source] * by for source, by in moved.items() if source in found.slopes)
            if np.any(np.nan_to_num(np.asarray(shift)) != 0):
                shared[key] = np.asarray(shift)
        return shared

    def with_simulated(self, name: str, found: Step) -> Step:
        """At a turning point first order gives no uncertainty although the sources have one: there that of a simulation."""
        flat = np.flatnonzero(np.isfinite(found.value) & (found.standard_error == 0))[:MOST_SIMULATED]
        if not self.uncertain or not len(flat):
            return found
        drawn = simulated(self.formulas, self.sources, name, flat.tolist(), self.correlations, self.units, self.curves)
        errors = np.array(found.standard_error)
        errors[flat] = np.where(np.isfinite(drawn) & (drawn > 1e-12 * np.abs(found.value[flat])), drawn, 0.0)
        return replace(found, standard_error=errors)

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
        drawn = simulated(self.formulas, self.sources, name, rows, self.correlations, self.units, self.curves)
        off = np.abs(drawn / found.standard_error[rows] - 1)
        worst = int(np.argmax(off))
        return (rows[worst], float(drawn[worst])) if off[worst] > CURVED else None
