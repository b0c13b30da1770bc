"""Profile intervals: limits that follow the bend of a nonlinear model where ± standard errors would mislead."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from scipy.optimize import brentq

from ridge.core.errors import OutsideSense, RidgeError
from ridge.core.judging.statistics import critical_value

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit

MISLEADS = 0.15
"""How lopsided a profile interval is when ± standard errors are said to mislead: the sides differ by this share."""


@dataclass(frozen=True)
class ProfileInterval:
    """Limits of one parameter; infinite where the readings set none within ten standard-error intervals.

    ``misleading``: whether the interval by standard errors differs clearly, so that this one should be quoted.
    """

    name: str
    low: float
    high: float
    level: float
    misleading: bool


def profile_interval(fit: Fit, name: str, level: float = 0.95) -> ProfileInterval:
    """The values of a parameter at which the best of the others raises the sum of squares by no more than t²·s².

    Bates and Watts, "Nonlinear Regression Analysis and its Applications", 1988, section 6.1. For models that are linear in
    their parameters this is the usual interval. Raises OutsideSense for a fixed or unknown parameter.
    """
    from ridge.core.fitting.fit import fit as fit_readings

    if name not in fit.model.free_names:
        raise OutsideSense(name, "is not among the fitted parameters.")
    parameter = fit.parameters[name]
    width = critical_value(level, fit.statistics.degrees_of_freedom, fit.readings.absolute_errors)
    error, deviation = parameter.standard_error, fit.reading_deviation
    if width is None or not error or not deviation or fit.statistics.exact:
        return ProfileInterval(name, -np.inf, np.inf, level, False)
    if fit.model.linear_form is not None or fit.log_line is not None:
        low, high = parameter.interval(level)
        return ProfileInterval(name, low, high, level, False)
    lowest = fit.statistics.residual_sum_of_squares
    wanted = width**2 * deviation**2
    start = {other: value for other, value in fit.values.items() if other != name}

    def raised(share: float) -> float:
        """Rise of the sum of squares over the wanted one, ``share`` interval widths from the best value."""
        if share == 0:
            return -1.0
        try:
            held = fit_readings(
                fit.readings, fit.model, start=start or None, fixed={name: parameter.value + share * width * error}
            )
        except RidgeError:
            return 1e6
        return (held.statistics.residual_sum_of_squares - lowest) / wanted - 1

    ends = []
    for side in (-1.0, 1.0):
        far = 1.0
        while far <= 10 and raised(side * far) < 0:
            far *= 1.6
        inner = 0.0
        ends.append(
            side * np.inf
            if far > 10
            else parameter.value + side * width * error * brentq(lambda s: raised(side * s), inner, far, xtol=1e-6)  # noqa: B023
        )
    low, high = ends
    below, above = (parameter.value - low) / (width * error), (high - parameter.value) / (width * error)
    misleading = not (abs(below - 1) < MISLEADS and abs(above - 1) < MISLEADS)
    return ProfileInterval(name, float(low), float(high), level, misleading)


@dataclass(frozen=True)
class Interval:
    """Limits of a parameter and how they were found: "standard error", "profile" or, where nothing scatters, "none"."""

    low: float
    high: float
    method: str


def intervals(fit: Fit, level: float = 0.95) -> dict[str, Interval]:
    """An interval for every fitted parameter: by its standard error, or by its profile where that would mislead."""
    found = {}
    for name in fit.model.free_names:
        low, high = fit.parameters[name].interval(level)
        found[name] = Interval(low, high, "standard error" if np.isfinite(low) and not fit.statistics.exact else "none")
        if found[name].method == "none" or fit.model.linear_form is not None:
            continue
        profile = profile_interval(fit, name, level)
        if profile.misleading:
            found[name] = Interval(profile.low, profile.high, "profile")
    return found
