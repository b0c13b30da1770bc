"""Errors that all readings share, such as the zero of a scale or its factor: they do not weigh readings, but move a result.

How far, is half the difference between the fits to the readings moved up and down by one standard uncertainty (JCGM 100:2008, 5.1.3,
note 2); with the scatter of the readings it counts in quadrature (5.1.2), with degrees of freedom by G.4.1.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.special import ndtri

from ridge.core.fitting.fit import fit as fit_readings
from ridge.core.predicting.parameter_limits import Interval
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.results.parameter import Parameter


@dataclass(frozen=True)
class SharedError:
    """By how much one standard uncertainty of it moves each x and each y, shape (rows,); None where it does not. ``name``: what it is
    of, the same for the same error in several fits."""

    name: str
    x: Array | None = None
    y: Array | None = None

    def at_y(self, readings_y: Array, y: float) -> float:
        """By how much it moves a further reading at ``y``: on the straight line through what it does to the others."""
        if self.y is None:
            return 0.0
        known = np.isfinite(readings_y) & np.isfinite(self.y)
        ys, shifts = readings_y[known], self.y[known]
        if not ys.size:
            return 0.0
        from_mean = ys - ys.mean()
        spread = float(from_mean @ from_mean)
        share = float(from_mean @ shifts) / spread if spread > 0 else 0.0
        return float(shifts.mean() + share * (y - ys.mean()))


@dataclass(frozen=True)
class Moved:
    """One shared error with the fits to the readings moved up and down by it."""

    error: SharedError
    up: Fit
    down: Fit

    def effect(self, quantity: Callable[[Fit], float]) -> float:
        """By how much it moves a quantity."""
        return (quantity(self.up) - quantity(self.down)) / 2

    def on_parameter(self, name: str) -> float:
        """By how much it moves a parameter."""
        return (self.up.values[name] - self.down.values[name]) / 2


def moved_by(fit: Fit, errors: Sequence[SharedError]) -> tuple[Moved, ...]:
    """Two refits for each error. None where nothing was fitted, or where no scatter is known beside which it could stand.

    Raises RidgeError where the moved readings cannot be fitted.

    >>> import numpy as np
    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4], [2.1, 3.9, 6.2, 7.8]), Line())
    >>> zero, = moved_by(line, [SharedError("zero", y=np.full(4, 0.5))])
    >>> [round(zero.effect(lambda moved: moved.values[name]), 12) for name in ("slope", "intercept")]
    [0.0, 0.5]
    """
    if fit.least_squares_in == "given" or fit.statistics.exact or fit.reading_deviation is None:
        return ()
    return tuple(Moved(error, _refitted(fit, error, 1.0), _refitted(fit, error, -1.0)) for error in errors)


def _refitted(fit: Fit, error: SharedError, sign: float) -> Fit:
    readings = fit.readings.moved(
        *(None if shift is None else sign * np.nan_to_num(shift) for shift in (error.x, error.y))
    )
    held = {one.name: one.value for one in fit.held}
    bent = fit.model.linear_form is None and fit.least_squares_in == "y"
    start = {name: fit.values[name] for name in fit.model.free_names if name not in held} if bent else None
    return fit_readings(readings, fit.model, start=start, fixed=held or None, least_squares_in=fit.least_squares_in)


def combined(effects: Sequence[float]) -> float:
    """Standard uncertainty of independent effects together."""
    return float(np.hypot.reduce(np.array([0.0, *effects])))


def widened(value: float, low: float, high: float, shared: float, level: float) -> tuple[float, float]:
    """Limits at ``level`` with a shared standard uncertainty: the squares of each side added, as for limits that are not equally far
    (Zou and Donner, Statistics in Medicine 27, 2008)."""
    far = float(ndtri((1 + level) / 2)) * shared
    with np.errstate(over="ignore", invalid="ignore"):
        return float(value - np.hypot(value - low, far)), float(value + np.hypot(high - value, far))


def with_shared(fit: Fit, moved: Sequence[Moved]) -> Fit:
    """The fit with what all readings share in the uncertainty of its parameters; everything that is of the readings' scatter stays."""
    if not moved:
        return fit
    names = list(fit.parameters)
    shifts = np.array([[one.on_parameter(name) for name in names] for one in moved])
    shared = shifts.T @ shifts
    parameters = {}
    for place, (name, parameter) in enumerate(fit.parameters.items()):
        line = parameter.logarithm
        if line is not None and parameter.value > 0:
            logs = [float(np.log(one.up.values[name] / one.down.values[name])) / 2 for one in moved]
            line = _with(line, combined(logs))
        parameters[name] = replace(_with(parameter, float(np.sqrt(shared[place, place]))), logarithm=line)
    return replace(fit, parameters=parameters, covariance=fit.covariance + shared, shared_covariance=shared)


def _with(parameter: Parameter, shared: float) -> Parameter:
    error = parameter.standard_error
    if parameter.fixed or not error or not shared:
        return parameter
    whole = float(np.hypot(error, shared))
    return replace(
        parameter, standard_error=whole, degrees_of_freedom=parameter.degrees_of_freedom * (whole / error) ** 4
    )


def intervals_with_shared(found: Mapping[str, Interval], fit: Fit, shared: Fit, level: float) -> dict[str, Interval]:
    """The intervals of ``fit`` with what ``shared``, the same with shared errors, adds to them."""
    if shared.shared_covariance is None:
        return dict(found)
    added = np.sqrt(np.diag(shared.shared_covariance))
    wide = {}
    for place, name in enumerate(fit.parameters):
        one = found.get(name)
        if one is None:
            continue
        if one.method == "none" or not added[place]:
            wide[name] = one
            continue
        if one.method == "profile":
            low, high = widened(fit.values[name], one.low, one.high, float(added[place]), level)
        else:
            low, high = shared.parameters[name].interval(level)
        positive = name in fit.model.positive and high > 0
        wide[name] = replace(one, low=max(low, 0.0) if positive else low, high=high)
    return wide
