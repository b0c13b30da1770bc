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

from ridge.core.fitting.effort import Effort
from ridge.core.fitting.refits import NoProfile, Refits
from ridge.core.predicting.parameter_limits import can_mislead, misleads, sides
from ridge.core.results.fit import Fit

OVERWHELMING = 1e6
"""How often more the reading that holds a value weighs than all that the others say there."""


@dataclass(frozen=True)
class Limits:
    """Limits found by refits. ``ends`` is None where those by standard errors will do, or have to, since refits would cost
    too much or come to no end: ``no_profile``."""

    ends: tuple[float, float] | None = None
    no_profile: bool = False


BY_STANDARD_ERRORS = Limits()


def curve_limits(fit: Fit, x: float, half: float, level: float, effort: Effort) -> Limits:
    """The confidence interval of the curve at x, where ± ``half``, by standard errors, will not do."""
    width, deviation = fit.critical_value(level), fit.reading_deviation
    if width is None or not deviation or not can_mislead(fit) or not (np.isfinite(half) and half > 0):
        return BY_STANDARD_ERRORS
    value = float(fit.evaluate(x))
    weight = OVERWHELMING / float(fit.curve.unit_variance(x))
    refits = Refits(fit, effort)

    def raised(share: float) -> float:
        held = refits.with_one_more(x, value + share * half, weight)
        return (held - refits.lowest) / width**2

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
    refits = Refits(fit, effort)
    weight = repeats / float(fit.readings.new_reading(y)) ** 2

    def raised(share: float) -> float:
        place = x + share * half * (above if share > 0 else below)
        return (refits.with_one_more(place, y, weight) - refits.lowest) / width**2

    return _limits(raised, lambda down, up: (x - down * below * half, x + up * above * half))


def _limits(raised: Callable[[float], float], ends: Callable[[float, float], tuple[float, float]]) -> Limits:
    try:
        return Limits(ends(*sides(raised))) if misleads(raised) else BY_STANDARD_ERRORS
    except NoProfile:
        return Limits(no_profile=True)
