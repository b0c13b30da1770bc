"""Limits of predictions that follow the bend of a model, where ± standard errors would mislead.

A value of the curve is held by one more reading there of overwhelming weight; an x is tried by one more reading there, the
unknown's own. How far the sum of squares then rises at its best says whether the readings bear it (the likelihood-ratio
interval; Bates and Watts, "Nonlinear Regression Analysis and its Applications", 1988, section 6.1). For a straight line
these are the usual limits and Fieller's.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import REFIT, Effort
from ridge.core.fitting.fit import fit as fit_readings
from ridge.core.predicting.parameter_limits import TooMuchWork, can_mislead, misleads, sides
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit

OVERWHELMING = 1e6
"""How often more the reading that holds a value weighs than all that the others say there."""


class _OneMore:
    """Refits with one more reading, each beginning from the fit itself, so that none depends on those before it."""

    def __init__(self, fit: Fit, effort: Effort) -> None:
        used = fit.readings.used
        self._effort = effort
        self._fit, self._start = fit, {name: fit.values[name] for name in fit.model.free_names}
        self._x, self._y, self._weights = fit.readings.x[used], fit.readings.y[used], fit.readings.used_weights

    def sum_of_squares(self, x: float, y: float, weight: float, *, counted: bool) -> float:
        """The least weighted sum of squares with the reading; ``counted``: whether its own square is among them."""

        if self._effort.passed:
            raise TooMuchWork
        readings = Readings(np.append(self._x, x), np.append(self._y, y), weight=np.append(self._weights, weight))
        try:
            found = fit_readings(readings, self._fit.model, start=self._start, effort=self._effort.part(REFIT))
        except RidgeError:
            return np.inf
        own = 0.0 if counted else weight * float(found.residuals[-1]) ** 2
        return found.statistics.residual_sum_of_squares - own


@dataclass(frozen=True)
class Limits:
    """Limits found by refits. ``ends`` is None where those by standard errors will do, or have to, since refits would cost
    too much: ``too_much_work``."""

    ends: tuple[float, float] | None = None
    too_much_work: bool = False


BY_STANDARD_ERRORS = Limits()


def curve_limits(fit: Fit, x: float, half: float, level: float, effort: Effort) -> Limits:
    """The confidence interval of the curve at x, where ± ``half``, by standard errors, will not do."""
    width, deviation = fit.critical_value(level), fit.reading_deviation
    if width is None or not deviation or not can_mislead(fit) or not (np.isfinite(half) and half > 0):
        return BY_STANDARD_ERRORS
    value = float(fit.evaluate(x))
    weight = OVERWHELMING / float(fit.curve.unit_variance(x))
    one_more, lowest = _OneMore(fit, effort), fit.statistics.residual_sum_of_squares

    def raised(share: float) -> float:
        held = one_more.sum_of_squares(x, value + share * half, weight, counted=False)
        return (held - lowest) / (width * deviation) ** 2

    return _limits(raised, lambda below, above: (value - below * half, value + above * half))


def x_limits(
    fit: Fit, x: float, y: float, repeats: int, ends: tuple[float, float], level: float, effort: Effort
) -> Limits:
    """Limits of the x at which the mean of ``repeats`` readings is y, where ``ends``, from the band, will not do."""
    width, deviation = fit.critical_value(level), fit.reading_deviation
    if (
        width is None
        or not deviation
        or not can_mislead(fit)
        or not np.all(np.isfinite(ends))
        or not ends[0] < x < ends[1]
    ):
        return BY_STANDARD_ERRORS
    half = (ends[1] - ends[0]) / 2
    below, above = (x - ends[0]) / half, (ends[1] - x) / half
    one_more, lowest = _OneMore(fit, effort), fit.statistics.residual_sum_of_squares
    weight = repeats / float(fit.readings.new_reading(y)) ** 2

    def raised(share: float) -> float:
        place = x + share * half * (above if share > 0 else below)
        return (one_more.sum_of_squares(place, y, weight, counted=True) - lowest) / (width * deviation) ** 2

    return _limits(raised, lambda down, up: (x - down * below * half, x + up * above * half))


def _limits(raised: Callable[[float], float], ends: Callable[[float, float], tuple[float, float]]) -> Limits:
    try:
        return Limits(ends(*sides(raised))) if misleads(raised) else BY_STANDARD_ERRORS
    except TooMuchWork:
        return Limits(too_much_work=True)
