"""Profile intervals: limits that follow the bend of a nonlinear model where ± standard errors would mislead."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from math import sqrt

import numpy as np
from scipy.optimize import brentq

from ridge.core.errors import OutsideSense
from ridge.core.fitting.effort import QUESTION, Effort
from ridge.core.fitting.refits import NoProfile, Refits
from ridge.core.results.finding import Finding
from ridge.core.results.fit import Fit
from ridge.core.results.statistics import critical_value

MISLEADS = 0.25
"""How asymmetric a profile interval is when ± standard errors are said to mislead: the sides differ by this share."""
FARTHEST = 10.0
"""Half-widths up to which a limit is looked for."""
NEAREST = 1e-3
"""Half-widths below which a limit is none: where the sum of squares rises at once, standard errors are no measure of it."""
MOST = 1000
"""Readings up to which profiles are walked: with more, ± standard errors serve."""
OUT_OF_REACH = 1e6
"""A rise that stands for any larger one, and for places at which the model has no value."""


def misleads(raised: Callable[[float], float]) -> bool:
    """Whether ± a half-width is clearly off, by two refits only.

    ``raised``: how far the sum of squares has risen that many half-widths from its lowest place, as a share of the rise
    that marks the limit.
    """
    return not all(1 / (1 + MISLEADS) ** 2 < raised(side) < 1 / (1 - MISLEADS) ** 2 for side in (-1.0, 1.0))


def sides(raised: Callable[[float], float]) -> tuple[float, float]:
    """How many half-widths down and up the limits lie; infinite where there is none within ``FARTHEST``. Raises NoProfile."""
    found = []
    for side in (-1.0, 1.0):
        known: dict[float, float] = {0.0: -1.0}

        def past(distance: float, side: float = side, known: dict[float, float] = known) -> float:
            """How far the limit is passed there, by the root of the rise, which is nearly straight; each place is tried once, so
            that what brackets it stays a bracket."""
            if distance not in known:
                rise = raised(side * distance)
                known[distance] = (sqrt(min(max(rise, 0.0), OUT_OF_REACH)) if rise == rise else OUT_OF_REACH) - 1
            return known[distance]

        inner, far = 0.0, 1.0
        while far < FARTHEST and past(far) < 0:
            inner, far = far, min(far * 1.6, FARTHEST)
        found.append(np.inf if past(far) < 0 else float(brentq(past, inner, far, xtol=2e-5)))
        if found[-1] < NEAREST:
            raise NoProfile
    return found[0], found[1]


def can_mislead(fit: Fit) -> bool:
    """Whether there is a scatter, and a model bent in its parameters, so that ± standard errors are approximate.

    Not asked of a fit whose search was cut short: refits would take as long, and it is not the best yet.
    """
    bent = fit.model.linear_form is None and fit.least_squares_in == "y" and not fit.cut_short
    return bent and not fit.statistics.exact and bool(fit.reading_deviation) and fit.statistics.n <= MOST


@dataclass(frozen=True)
class ProfileInterval:
    """Limits of one parameter; infinite where the readings set none within ten standard-error intervals.

    ``misleading``: whether the interval by standard errors differs clearly, so that this one should be quoted, or may do so, where
    the refits come to no end and the limits are by standard errors after all.
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

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Exponential
    >>> decay = fit(Readings([0, 1, 2, 3, 4], [8.0, 4.9, 3.1, 1.8, 1.2]), Exponential())
    >>> from ridge.core.predicting.parameter_limits import profile_interval
    >>> limits = profile_interval(decay, "k")
    >>> round(limits.low, 2), round(limits.high, 2)
    (-0.51, -0.46)
    """
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
    try:
        below, above = sides(_rise(fit, name, width, Refits(fit, Effort())))
    except NoProfile:
        return ProfileInterval(name, *parameter.interval(level), level, True)
    misleading = not (abs(below - 1) < MISLEADS and abs(above - 1) < MISLEADS)
    half = width * error
    return ProfileInterval(name, parameter.value - below * half, parameter.value + above * half, level, misleading)


def _rise(fit: Fit, name: str, width: float, refits: Refits) -> Callable[[float], float]:
    """The rise with a parameter held so many half-widths from its best value, the others at their best there.

    It raises NoProfile.
    """
    parameter = fit.parameters[name]
    assert parameter.standard_error is not None
    half = width * parameter.standard_error

    def raised(share: float) -> float:
        return (refits.holding(name, parameter.value + share * half) - refits.lowest) / width**2

    return raised


@dataclass(frozen=True)
class Interval:
    """Limits of a parameter and how they were found: "standard error"; "profile"; "unchecked", by the standard error
    although that may mislead, since nothing was refitted yet; "no profile", the same since refits would cost too much or come to no end;
    or, where nothing scatters, "none"."""

    low: float
    high: float
    method: str


def intervals(fit: Fit, level: float = 0.95, *, refits: float = QUESTION) -> dict[str, Interval]:
    """An interval for every fitted parameter: by its standard error, or by its profile where that would mislead.

    ``refits``: what the refits may cost that tell whether it would, see ``effort``. Where less than a whole question may and it does
    not do, the limits are "unchecked".

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Exponential
    >>> decay = fit(Readings([0, 1, 2, 3, 4], [8.0, 4.9, 3.1, 1.8, 1.2]), Exponential())
    >>> from ridge.core.predicting.parameter_limits import intervals
    >>> intervals(decay)["k"].method
    'standard error'
    """
    found = {}
    quick = Refits(fit, Effort(refits)) if refits and can_mislead(fit) else None
    for name in fit.model.free_names:
        parameter = fit.parameters[name]
        low, high = parameter.interval(level)
        found[name] = Interval(low, high, "standard error" if np.isfinite(low) and not fit.statistics.exact else "none")
        width = critical_value(level, fit.statistics.degrees_of_freedom, fit.readings.absolute_errors)
        if found[name].method == "none" or width is None or not parameter.standard_error or not can_mislead(fit):
            continue
        if quick is None:
            found[name] = Interval(low, high, "unchecked")
            continue
        raised = _rise(fit, name, width, quick)
        try:
            if misleads(raised):
                below, above = sides(raised)
                half = width * parameter.standard_error
                found[name] = Interval(parameter.value - below * half, parameter.value + above * half, "profile")
        except NoProfile:
            found[name] = Interval(low, high, "no profile" if refits >= QUESTION else "unchecked")
    return {name: _in_sense(fit, name, one) for name, one in found.items()}


def _in_sense(fit: Fit, name: str, one: Interval) -> Interval:
    """The interval of a parameter that is positive by definition ends at zero."""
    return replace(one, low=max(one.low, 0.0)) if name in fit.model.positive and one.high > 0 else one


def asymmetric(fit: Fit, found: Mapping[str, Interval], level: float) -> list[Finding]:
    """Parameters whose ± would mislead, as a finding: a name each with its value and its two limits as facts."""
    wide = [(name, one) for name, one in found.items() if one.method == "profile"]
    if not wide:
        return []
    facts = {
        f"{name} {what}": number
        for name, one in wide
        for what, number in (("value", fit.values[name]), ("low", one.low), ("high", one.high))
    }
    names = {name: name for name, _ in wide}
    return [Finding("asymmetric", facts={"level": level, **facts}, words={"curve": "curve", **names})]


def unchecked(found: Mapping[str, Interval]) -> list[Finding]:
    """Parameters whose limits stay by standard errors, since refits would cost too much or come to no end."""
    names = {name: name for name, one in found.items() if one.method == "no profile"}
    return [Finding("limits-unchecked", words={"curve": "curve", **names})] if names else []
