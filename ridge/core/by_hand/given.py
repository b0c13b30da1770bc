"""A curve with given numbers, judged by the readings but not fitted to them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from ridge.core.errors import BeyondDoubles, OutsideSense, TooFewReadings, UndefinedAt
from ridge.core.fitting.fitted_curve import NonlinearCurve
from ridge.core.fitting.statistics import compute_statistics
from ridge.core.fitting.sums import correlation_of, r_squared, total_sum
from ridge.core.models import Model
from ridge.core.readings import Readings
from ridge.core.results.fit import Fit
from ridge.core.results.parameter import Parameter

NOTHING_FITTED = "Nothing was fitted: the numbers are given."


def with_values(readings: Readings, model: Model, values: Mapping[str, float]) -> Fit:
    """The model at given parameters, dressed like a fit with every parameter fixed.

    ``values``: a number for each parameter that the model does not keep fixed already. R² is 1 − RSS/TSS about the mean; it can
    be negative, for a curve that misses the readings by more than their mean does. s is the root mean square of the residuals; nothing has a standard error.

    Raises OutsideSense for a value that is missing or not finite, TooFewReadings without any reading in use, UndefinedAt
    where the curve has no value at a reading, BeyondDoubles.

    >>> from ridge.core import Readings, with_values
    >>> from ridge.core.models import Line
    >>> given = with_values(Readings([1, 2, 3], [2.1, 3.9, 6.2]), Line(), {"slope": 2, "intercept": 0})
    >>> given.residuals.round(3).tolist()
    [0.1, -0.1, 0.2]
    """
    missing = [name for name in model.free_names if name not in values]
    if missing:
        raise OutsideSense(missing[0], "needs a value.")
    given = model.with_fixed({name: values[name] for name in model.free_names})
    used = readings.used
    if not used.any():
        raise TooFewReadings(1, 0)
    at = {name: given.fixed[name] for name in given.parameter_names}
    with np.errstate(all="ignore"):
        fitted = given.evaluate(readings.x, at)
        residuals = readings.y - fitted
    rows = np.flatnonzero(used & ~np.isfinite(fitted))
    if len(rows):
        raise UndefinedAt(
            tuple(rows.tolist()),
            "The curve has no value there with these numbers",
            "Change a number, or set them aside.",
        )
    readings = readings.with_errors_at(fitted)
    weights, used_residuals, y = readings.used_weights, residuals[used], readings.y[used]
    with np.errstate(over="ignore"):
        rss, tss = float(weights @ used_residuals**2), total_sum(y, weights, model)
    if not np.isfinite(rss) or not np.isfinite(tss):
        raise BeyondDoubles("sum of squares")
    exact = bool(np.all(np.abs(used_residuals) <= 4 * np.finfo(float).eps * np.abs(y).max()))
    counts = readings.used_counts
    statistics = compute_statistics(
        n=readings.n,
        free=0,
        compared_with=model.null,
        rss=rss,
        regression=tss - rss,
        r_squared=r_squared(y, weights, given, rss, 0.0, "constant"),
        r_squared_about_zero=None if model.has_constant else r_squared(y, weights, given, rss, 0.0, "zero"),
        ratio=(tss - rss) / rss if rss > 0 else np.inf,
        exact=exact,
        correlation=correlation_of(readings.x[used], y, weights),
        log_weight_sum=float(counts @ np.log(weights / counts)),
        reference_error=readings.reference_error if readings.absolute_errors else None,
    )
    absent = dict.fromkeys(("adjusted_r_squared", "f_statistic", "f_p_value"), NOTHING_FITTED)
    statistics = replace(statistics, adjusted_r_squared=None, absent={**statistics.absent, **absent})
    count = len(given.parameter_names)
    zeros = np.zeros((count, count))
    parameters = {
        name: Parameter(name, at[name], None, True, statistics.degrees_of_freedom, readings.absolute_errors, exact)
        for name in given.parameter_names
    }
    leverage = np.where(used, 0.0, np.nan)
    curve = NonlinearCurve(given, at, np.zeros((count, max(count, 1))), np.ones(count))
    return Fit(
        readings, given, parameters, zeros, statistics, fitted, residuals, leverage, zeros, curve, least_squares_in="given"
    )  # fmt: skip
