"""Whether two fits of one model to different readings are the same curve: parameter by parameter, and all of them at once."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from scipy.special import chdtrc, fdtrc

from ridge.core.carrying.agreement import Agreement, agree
from ridge.core.errors import OutsideSense
from ridge.core.judging.comparison import refit
from ridge.core.results.fit import Fit
from ridge.core.results.read_only import ReadOnly


@dataclass(frozen=True)
class SameCurve:
    """``parameters``: of each free one how far the two lie apart. ``f``: what one curve for both leaves beyond two curves, per parameter
    saved and over the variance that those leave (over the known one where uncertainties are absolute, then p comes from χ²); None
    where nothing is left to test with."""

    parameters: Mapping[str, Agreement]
    saved: int
    degrees_of_freedom: int
    f: float | None
    p: float | None
    together: Fit

    def __post_init__(self) -> None:
        object.__setattr__(self, "parameters", ReadOnly(self.parameters))


@dataclass(frozen=True)
class _Value:
    value: float
    standard_error: float | None
    degrees_of_freedom: float


def same_curve(first: Fit, second: Fit) -> SameCurve:
    """Two fits of the same model to readings of which none is common to both.

    One curve is fitted to all of them; the F-test is Chow's (Econometrica 28, 1960) for linear models and normal scatter of one size,
    approximate for others (extra sum of squares: Bates and Watts 1988, section 3.10). Parameters are compared with Welch's degrees of
    freedom. Raises OutsideSense where the two cannot be compared, and what ``fit`` raises.

    >>> import numpy as np
    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> readings = Readings([1, 2, 3, 4, 1, 2, 3, 4], [2.1, 3.9, 6.2, 7.8, 4.2, 5.9, 8.1, 9.8])
    >>> one = np.arange(8) < 4
    >>> found = same_curve(fit(readings.choosing(one), Line()), fit(readings.choosing(~one), Line()))
    >>> found.p < 0.01, found.parameters["slope"].p > 0.2
    (True, True)
    """
    if not _same_model(first, second):
        raise OutsideSense("second", "must be of the same model, fitted in the same way.")
    one, other = first.readings, second.readings
    if len(one) != len(other) or bool(np.any(one.used & other.used)):
        raise OutsideSense("second", "must be fitted to other readings of the same table.")
    together = refit(first, np.asarray(one.used | other.used))
    degrees = first.statistics.degrees_of_freedom + second.statistics.degrees_of_freedom
    saved = together.statistics.degrees_of_freedom - degrees
    apart = _left(first) + _left(second)
    gained = max(_left(together) - apart, 0.0)
    f = p = None
    exact = first.statistics.exact or second.statistics.exact
    if saved > 0 and one.absolute_errors and not np.isnan(gained):
        f, p = gained / saved, float(chdtrc(saved, gained))
    elif saved > 0 and degrees > 0 and apart > 0 and not exact:
        f = gained / saved / (apart / degrees)
        p = float(fdtrc(saved, degrees, f))
    parameters = {name: agree(_value(first, name), _value(second, name)) for name in first.model.free_names}
    return SameCurve(parameters, saved, degrees, f, p, together)


def _same_model(first: Fit, second: Fit) -> bool:
    one, other = first.model, second.model
    same = one.family == other.family and one.expression == other.expression and one.free_names == other.free_names
    fitted = first.least_squares_in == second.least_squares_in == "y"
    return same and dict(one.fixed) == dict(other.fixed) and fitted


def _left(fit: Fit) -> float:
    """Sum of squared residuals by weights that do not depend on which readings take part."""
    return fit.statistics.residual_sum_of_squares / fit.readings.reference_error**2


def _value(fit: Fit, name: str) -> _Value:
    parameter = fit.parameters[name]
    degrees = np.inf if fit.readings.absolute_errors else fit.statistics.degrees_of_freedom
    error = None if fit.statistics.exact else parameter.standard_error
    return _Value(parameter.value, error, degrees)
