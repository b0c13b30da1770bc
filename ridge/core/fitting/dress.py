"""From the numbers of a solve to a fit: parameters with uncertainties, statistics, and every row's residual."""

from __future__ import annotations

import numpy as np

from ridge.core.fitting.redundancy import without_meaning_at_zero
from ridge.core.fitting.searched import Searched
from ridge.core.fitting.solved import Solved
from ridge.core.fitting.statistics import compute_statistics
from ridge.core.fitting.sums import correlation_of, r_squared
from ridge.core.readings import Array, Readings
from ridge.core.results.fit import Fit
from ridge.core.results.parameter import Parameter


def dress(readings: Readings, solved: Solved, searched: Searched | None = None, least_squares_in: str = "y") -> Fit:
    """Spread the results of a solve over all rows and dress the parameters with their uncertainties."""
    model, used, weights = solved.model, readings.used, readings.used_weights
    free = len(model.free_names) + sum(held.chosen for held in solved.held if held.why == "redundant")
    with np.errstate(over="ignore", under="ignore"):
        y = readings.y[used]
        statistics = compute_statistics(
            n=readings.n,
            free=free,
            compared_with=model.null,
            rss=solved.rss,
            regression=solved.regression,
            r_squared=r_squared(y, weights, model, solved.rss, solved.ratio, "constant"),
            r_squared_about_zero=None
            if model.has_constant
            else r_squared(y, weights, model, solved.rss, solved.ratio, "zero"),
            ratio=solved.ratio,
            exact=solved.exact,
            correlation=correlation_of(readings.x[used], y, weights),
            log_weight_sum=_log_weight_sum(readings),
            reference_error=readings.reference_error if readings.absolute_errors else None,
            at_bounds=sum(held.why == "bound" for held in solved.held),
            searched=searched,
        )
    fitted, residuals, leverage = _over_all_rows(readings, solved)
    degrees = statistics.degrees_of_freedom
    deviation = readings.reference_error if readings.absolute_errors else statistics.residual_standard_deviation
    with np.errstate(over="ignore", under="ignore", invalid="ignore"):
        covariance = solved.unit_covariance * (np.nan if deviation is None else deviation**2)
        errors = np.sqrt(solved.unit_covariance.diagonal()) * (np.nan if deviation is None else deviation)
    untested = without_meaning_at_zero(model)
    parameters = {
        name: Parameter(
            name=name,
            value=solved.values[name],
            standard_error=None if deviation is None or name in model.fixed else float(errors[i]),
            fixed=name in model.fixed,
            degrees_of_freedom=degrees,
            absolute=readings.absolute_errors,
            exact=statistics.exact,
            tested=name not in untested,
        )
        for i, name in enumerate(model.parameter_names)
    }
    return Fit(
        readings, model, parameters, covariance, statistics, fitted, residuals, leverage, solved.unit_covariance,
        solved.curve, least_squares_in, solved.held, solved.cut_short,
    )  # fmt: skip


def _log_weight_sum(readings: Readings) -> float:
    """Σ ln(weight) over the readings in use, each as often as it occurred."""
    if not readings.weighted:
        return 0.0
    counts = readings.used_counts
    return float(counts @ np.log(readings.used_weights / counts))


def _over_all_rows(readings: Readings, solved: Solved) -> tuple[Array, Array, Array]:
    """Fitted values and residuals of every row with an x, also of those set aside; leverage of those in use."""
    used = readings.used
    if used.all():
        return readings.y - solved.residuals, solved.residuals, solved.leverage
    fitted, residuals, leverage = np.full((3, len(readings)), np.nan)
    residuals[used], leverage[used] = solved.residuals, solved.leverage
    fitted[used] = readings.y[used] - solved.residuals
    others = ~used & np.isfinite(readings.x)
    with np.errstate(over="ignore", invalid="ignore"):
        fitted[others] = solved.curve.value(readings.x[others])
        residuals[others] = np.where(np.isfinite(readings.y[others]), readings.y[others] - fitted[others], np.nan)
    return fitted, residuals, leverage
