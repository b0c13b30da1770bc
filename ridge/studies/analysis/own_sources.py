"""What a quantity of one's own may be made of besides the parameters of its fit: those of other fits, answers that have a symbol for a
name, means of columns, and values known beforehand. Computes; words nothing."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from ridge.core.carrying import CONSTANTS, Linked, Moved
from ridge.core.carrying.unit_algebra import has_zero_of_its_own
from ridge.core.errors import OutsideSense
from ridge.core.fitting.effort import UNCHECKED
from ridge.core.formula.parse import same_name
from ridge.core.predicting.features import area, tangent
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming
from ridge.exchange.cells import read_number
from ridge.studies.analysis.answered import AreaBetween, OnInterpolation, SlopeAtX, SolutionsAtY, ValueAtX
from ridge.studies.analysis.answering import answered
from ridge.studies.analysis.fits import Fitted
from ridge.studies.content.columns import column_values, names_for_formulas
from ridge.studies.content.given_errors import given_errors
from ridge.studies.content.readings import Table
from ridge.studies.content.state import AnswerState, ColumnState, OwnQuantity, StudyState
from ridge.studies.content.uncertainties import last_digit, read_uncertainty

OF_FIT = re.compile(r"([A-F])_(\w+)")
"""A parameter of another fit in a formula."""
_MEAN = re.compile(r"mean_(\w+)")
_PANELS = 400


@dataclass
class Sources:
    """Arguments of ``ridge.core.carrying.follow`` for one formula."""

    fits: dict[str, Fit] = field(default_factory=dict)
    known: dict[str, tuple[float, float]] = field(default_factory=dict)
    units: dict[str, str] = field(default_factory=dict)
    aliases: dict[str, str] = field(default_factory=dict)
    linked: dict[str, Linked] = field(default_factory=dict)
    moved: dict[str, Sequence[Moved]] = field(default_factory=dict)


def _units_of_parameters(fit: Fit, naming: Naming) -> dict[str, str]:
    """Units of the parameters by name. In °C or °F only the constant term is a temperature; the others are differences of some."""
    units = naming.parameter_units(fit.model)
    return {
        name: f"Δ{unit}" if has_zero_of_its_own(unit) and name != fit.model.constant else unit
        for name, unit in units.items()
    }


class SourceReader:
    """Looks up the names of formulas of one fit."""

    def __init__(self, one: Fitted, fitted: Sequence[Fitted], table: Table, state: StudyState) -> None:
        assert one.fit is not None
        self._one, self._fit = one, one.fit
        self._fitted, self._table, self._state = fitted, table, state

    @property
    def naming(self) -> Naming:
        return self._table.naming

    def read(self, wanted: OwnQuantity, names: Sequence[str]) -> Sources:
        """Raises OutsideSense for a name that nothing stands for or that has several values, NotANumber for a value that is none."""
        found = Sources(fits={"": self._fit}, moved={"": self._one.moved})
        found.units |= _units_of_parameters(self._fit, self.naming)
        given = {one.symbol: one for one in wanted.known}
        letters = self.naming.by_letter(self._fit.parameters, given)
        for name in names:
            if name in self._fit.parameters:
                continue
            if name in letters:
                found.aliases[name] = letters[name]
            elif name in given:
                one = given[name]
                found.known[name] = read_known(one.value, one.uncertainty)
                found.units[name] = one.unit
            elif not (self._of_other_fit(name, found) or self._answer(name, found) or self._mean(name, found)):
                self._constant(name, found)
        return found

    def _constant(self, name: str, found: Sources) -> None:
        if name in CONSTANTS:
            constant = CONSTANTS[name]
            found.known[name] = (constant.value, constant.standard_error)
            found.units[name] = constant.unit
            return
        here = [self.naming.letter(one) for one in self._fit.parameters]
        raise OutsideSense(name, f"stands for nothing here; there are {', '.join([*here, *self._others_offered()])}.")

    def _others_offered(self) -> list[str]:
        others = [
            f"{one.wanted.letter}_{self.naming.letter(name)}"
            for one in self._fitted
            if one.fit is not None and one is not self._one
            for name in one.fit.parameters
        ]
        means = [f"mean_{column.symbol}" for column in self._state.columns if column.symbol and column.role != "series"]
        answers = [answer.name for answer in self._state.answers if answer.name.isidentifier()]
        return [*others[:6], *means[:4], *answers[:4]]

    def _of_other_fit(self, name: str, found: Sources) -> bool:
        match = OF_FIT.fullmatch(name)
        other = next((one for one in self._fitted if match and one.wanted.letter == match[1]), None)
        if match is None or other is None or other.fit is None:
            return False
        names = self.naming.by_letter(other.fit.parameters) | {one: one for one in other.fit.parameters}
        if match[2] not in names:
            return False
        parameter = names[match[2]]
        if other is self._one:
            found.aliases[name] = parameter
            return True
        self._take(other, found)
        full = f"{match[1]}_{parameter}"
        if full != name:
            found.aliases[name] = full
        return True

    def _take(self, other: Fitted, found: Sources) -> str:
        """Put a fit among the sources; what its parameters begin with there."""
        if other is self._one:
            return ""
        letter = other.wanted.letter
        assert other.fit is not None
        found.fits[letter], found.moved[letter] = other.fit, other.moved
        units = _units_of_parameters(other.fit, self.naming)
        found.units |= {f"{letter}_{one}": unit for one, unit in units.items()}
        return f"{letter}_"

    def _answer(self, name: str, found: Sources) -> bool:
        kept = next((one for one in self._state.answers if same_name(one.name.strip()) == same_name(name)), None)
        if kept is None:
            return False
        linked, unit = self._linked(kept, found)
        found.linked[name] = linked
        found.units[name] = unit
        return True

    def of_answer(self, kept: AnswerState, name: str) -> tuple[Sources, str]:
        """An answer alone under a name, and its unit. Raises OutsideSense where it has no single value."""
        found = Sources()
        linked, unit = self._linked(kept, found)
        # Its own fit may be the one that is read for, whose parameters go by their names alone.
        found.fits.setdefault("", self._fit)
        found.linked[name] = linked
        return found, unit

    def called(self, kept: AnswerState) -> str:
        """An answer by its name, or by what was asked."""
        asked = self.naming.x if kept.direction != "x_at_y" else self.naming.y
        return kept.name or f"answer at {asked} = {kept.given}"

    def _linked(self, kept: AnswerState, found: Sources) -> tuple[Linked, str]:
        """An answer by how it moves with the parameters of the fit that was asked."""
        naming = self.naming
        what = answered(self._fitted, kept, self._state.level, naming, refits=UNCHECKED)
        asked = next((one for one in self._fitted if one.fit is not None and kept.fit in ("", one.wanted.letter)), None)
        if isinstance(what, OnInterpolation):
            return Linked(what.x if what.looking else what.y), naming.x_unit if what.looking else naming.y_unit
        if asked is None or asked.fit is None or not isinstance(what, ValueAtX | SolutionsAtY | SlopeAtX | AreaBetween):
            raise OutsideSense(kept.name, "is an answer without one value of its own.")
        fit, prefix = asked.fit, self._take(asked, found)
        own, shared = 0.0, {}
        match what:
            case ValueAtX():
                value, unit, gradient = what.y, naming.y_unit, fit.model.gradient(np.array([what.x]), fit.values)[0]
                shared = {one.error.name: one.effect(lambda of: float(of.evaluate(what.x))) for one in asked.moved}
            case SlopeAtX():
                x = what.tangent.x
                value, unit = what.tangent.slope.value, naming.unit(-1, 1)
                gradient = fit.model.slope_gradients(np.array([x]), fit.values)[0][0]
                shared = {one.error.name: one.effect(lambda of: tangent(of, x).slope.value) for one in asked.moved}
            case AreaBetween():
                low, high = what.ends
                value, unit = what.area.value, naming.unit(1, 1)
                gradient = _area_gradient(fit, low, high)
                shared = {one.error.name: one.effect(lambda of: area(of, low, high).value) for one in asked.moved}
            case SolutionsAtY():
                first = what.solutions[0]
                value, unit = first.value, naming.x_unit
                steep = float(fit.curve.slope(np.array([value]))[0])
                gradient = -fit.model.gradient(np.array([value]), fit.values)[0] / steep
                deviation = (fit.reading_deviation or 0.0) * float(fit.readings.new_reading(what.y))
                own = abs(deviation / np.sqrt(what.repeats) / steep)
                shared = {
                    one.error.name: one.effect(lambda of: _x_near(of, value, what.y))
                    + one.error.at_y(fit.readings.y, what.y) / steep
                    for one in asked.moved
                }
        slopes = {prefix + name: float(slope) for name, slope in zip(fit.parameters, gradient, strict=True) if slope}
        return Linked(value, slopes, own, prefix.removesuffix("_"), shared), unit

    def _mean(self, name: str, found: Sources) -> bool:
        match = _MEAN.fullmatch(name)
        column = names_for_formulas(self._state).get(same_name(match[1])) if match else None
        if column is None:
            return False
        if column.role == "y" and self._fit.least_squares_in == "y":
            found.linked[name] = self._mean_of_y()
        elif column.role == "x":
            found.linked[name] = self._mean_of_x()
        else:
            found.known[name] = self._mean_of(column)
        found.units[name] = column.unit
        return True

    def _mean_of_y(self) -> Linked:
        """The mean of what the fit is made to: it goes together with the parameters as the mean of the curve does; what it has besides is
        the mean of the residuals."""
        fit = self._fit
        used, weights = fit.readings.used, fit.readings.used_weights
        each = fit.readings.used_counts / fit.readings.n
        gradient = each @ fit.model.gradient(fit.readings.x[used], fit.values)
        deviation = fit.reading_deviation or 0.0
        whole = float((each**2 / weights).sum())
        told = float(gradient @ fit.unit_covariance @ gradient)
        shared = {one.name: float(each @ np.nan_to_num(one.y)[used]) for one in self._one.shared if one.y is not None}
        return Linked(
            float(each @ fit.readings.y[used]), dict(zip(fit.parameters, gradient.tolist(), strict=True)),
            deviation * float(np.sqrt(max(whole - told, 0.0))), "", shared,
        )  # fmt: skip

    def _mean_of_x(self) -> Linked:
        """The mean of x moves with what all readings share, as the parameters do."""
        fit = self._fit
        used, each = fit.readings.used, fit.readings.used_counts / fit.readings.n
        errors = fit.readings.x_error
        own = 0.0 if errors is None else float(np.sqrt(_sum_of_squares(each * np.nan_to_num(errors[used]))))
        shared = {one.name: float(each @ np.nan_to_num(one.x)[used]) for one in self._one.shared if one.x is not None}
        return Linked(float(each @ fit.readings.x[used]), {}, own, None, shared)

    def _mean_of(self, column: ColumnState) -> tuple[float, float]:
        """Mean of the rows in use, or of all where none of them has a value, with its standard uncertainty: of the uncertainties given
        where there are any, else s/√n (JCGM 100:2008, 4.2.3)."""
        values = column_values(self._state)
        numbers = values[column.key].numbers
        rows = self._table.readings.used & np.isfinite(numbers)
        rows = rows if rows.any() else np.isfinite(numbers)
        chosen = numbers[rows]
        if not chosen.size:
            raise OutsideSense(f"mean_{column.symbol}", "has no values to take the mean of.")
        given = given_errors(self._state, column, values)
        parts = [np.sqrt(_sum_of_squares(given.numbers[rows])) / chosen.size] if given.numbers is not None else []
        parts += [abs(float(shift[rows].mean())) for shift in given.shared.values()]
        if not parts and chosen.size > 1:
            parts = [float(np.std(chosen, ddof=1)) / np.sqrt(chosen.size)]
        return float(chosen.mean()), float(np.hypot.reduce(np.array([0.0, *parts])))


def read_known(value: str, uncertainty: str) -> tuple[float, float]:
    """A value known beforehand with its standard uncertainty, both as typed. Raises NotANumber, OutsideSense."""
    number = read_number(value)
    if number is None:
        raise OutsideSense("known value", "is missing: type a number for each.")
    typed, digit, values = read_uncertainty(uncertainty), last_digit((value,)), np.array([number])
    if typed.needs_digits and np.isnan(digit):
        raise OutsideSense("known value", "shows no last digit.")
    each = typed.standard(values, digit)[0] if typed.parts else 0.0
    return number, float(np.hypot.reduce(np.array([each, *(shift[0] for shift in typed.shifts(values, digit))])))


def _sum_of_squares(values: Array) -> float:
    return float(values @ values)


def _area_gradient(fit: Fit, low: float, high: float) -> Array:
    """Integral of the gradient, by Simpson's rule."""
    x = np.linspace(low, high, 2 * _PANELS + 1)
    weights = np.ones(x.size)
    weights[1:-1:2], weights[2:-1:2] = 4, 2
    return np.asarray((high - low) / (6 * _PANELS) * (weights @ fit.model.gradient(x, fit.values)))


def _x_near(fit: Fit, x: float, y: float) -> float:
    """The x near a known one at which a curve that has moved a little takes the value y: one step along the tangent."""
    return x + (y - float(fit.evaluate(x))) / float(fit.curve.slope(np.array([x]))[0])
