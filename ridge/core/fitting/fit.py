"""Fitting a model to readings by least squares in y."""

from __future__ import annotations

import numpy as np

from ridge.core.errors import BeyondDoubles, NotIdentifiable, OutsideSense, TooFewReadings
from ridge.core.fitting.linear import DependentColumn, solve
from ridge.core.fitting.result import Fit, Parameter
from ridge.core.judging.statistics import Statistics, compute_statistics
from ridge.core.models import LinearModel
from ridge.core.models.base import Extended, ExtendedNumber
from ridge.core.readings import Array, Readings


def _power_of_two(reach: ExtendedNumber) -> ExtendedNumber:
    """The power of two, exact in binary, that brings values of this size to at most one; 1 for zero."""
    return np.longdouble(np.ldexp(np.longdouble(1), int(np.frexp(reach)[1])))


def _reach(values: Array | Extended, about: ExtendedNumber) -> ExtendedNumber:
    """Farthest distance of the values from a point."""
    return np.longdouble(max(np.longdouble(values.max()) - about, about - np.longdouble(values.min())))


def _correlation(u: Array, v: Array, weights: Array) -> float | None:
    """Weighted correlation of values of size one."""
    total = weights.sum()
    du = u - weights @ u / total
    dv = v - weights @ v / total
    spread = np.sqrt(weights @ (du * du)) * np.sqrt(weights @ (dv * dv))
    return float(np.clip(weights @ (du * dv) / spread, -1, 1)) if spread > 0 else None


def fit(readings: Readings, model: LinearModel) -> Fit:
    """Fit ``model`` to the readings in use by weighted least squares in y.

    Solved in u = (x − centre)/scale and in extended precision, so that the result carries the last digits
    of a double wherever the readings lie. Weights enter as in ``Readings.used_weights``.

    Raises
    ------
    TooFewReadings
        Fewer readings in use than free parameters.
    NotIdentifiable
        All x are equal (or all zero for a line through a fixed point).
    OutsideSense
        Weights too large to be added up.
    BeyondDoubles
        A parameter or a sum of squares is beyond what a double can hold.
    """
    used = readings.used
    free = model.free_names
    n, p = int(used.sum()), len(free)
    if n < p:
        raise TooFewReadings(p, n)
    x, y, weights = readings.x[used], readings.y[used], readings.used_weights
    with np.errstate(over="ignore"):
        if not np.isfinite(weights.sum()):
            raise OutsideSense(
                "weight", "the weights are too large to be added up. Divide all of them by the same number."
            )
    if np.all(x == x[0]) and ((model.centred and p > 1) or x[0] == 0):
        raise NotIdentifiable(
            f"All x are equal ({x[0]:g}), so a slope cannot be told.",
            "the mean of y at that x",
            "Add readings at another x, or swap x and y.",
        )

    long_x = x.astype(np.longdouble)
    root_weights = None if np.all(weights == 1) else np.sqrt(weights.astype(np.longdouble))
    centre = np.dot(weights, long_x) / np.longdouble(weights.sum()) if model.centred else np.longdouble(0)
    scale = _power_of_two(_reach(x, centre))
    u = long_x - centre
    u /= scale
    target = y.astype(np.longdouble) - model.known_part(long_x)
    y_scale = _power_of_two(_reach(target, np.longdouble(0)))
    target /= y_scale
    correlation = _correlation(u.astype(np.float64), target.astype(np.float64), weights)
    try:
        solution = solve(model.design(u), target, root_weights)
    except DependentColumn as cause:
        raise NotIdentifiable(
            f"The x values differ by too little to tell the {free[-1]} apart.",
            "the mean of y",
            "Add readings over a wider range of x.",
        ) from cause

    natural = model.to_natural(centre, scale)
    root = natural @ solution.inverse_factor
    free_values = y_scale * (natural @ solution.coefficients)
    free_covariance = root @ root.T
    rest, moving = solution.weighted_residuals, solution.projections[1 if model.has_constant else 0 :]
    rss, regression = np.dot(rest, rest), np.dot(moving, moving)
    largest = max(_reach(y, np.longdouble(0)), y_scale / 2)
    noise = 4 * np.finfo(np.float64).eps * np.longdouble(np.sqrt(weights.max())) * largest / y_scale
    exact = n > p and bool(_reach(rest, np.longdouble(0)) <= noise)
    if n == p:
        rss = np.longdouble(0)
    if regression <= n * noise**2 and np.ptp(y) == 0:
        regression = np.longdouble(0)

    with np.errstate(over="ignore", under="ignore"):
        values = model.fixed | dict(zip(free, free_values.astype(np.float64).tolist(), strict=True))
        for name in free:
            if not np.isfinite(values[name]):
                raise BeyondDoubles(name)
        for sum_of_squares in (rss, regression):
            held = float(sum_of_squares * y_scale**2)
            if not np.isfinite(held) or (sum_of_squares > 0 and held < np.finfo(np.float64).tiny):
                raise BeyondDoubles("sum of squares")
        statistics = compute_statistics(
            n=n,
            free=p,
            constant=model.has_constant,
            rss=float(rss * y_scale**2),
            regression=float(regression * y_scale**2),
            r_squared=float(regression / (regression + rss)) if regression > 0 or (not exact and rss > 0) else None,
            ratio=float(regression / rss) if rss > 0 else np.inf,
            exact=exact,
            correlation=correlation,
            log_weight_sum=float(np.log(weights).sum()),
            reference_error=readings.reference_error if readings.absolute_errors else None,
        )
        at = [model.parameter_names.index(name) for name in free]
        unit_covariance = np.zeros((len(model.parameter_names),) * 2)
        unit_covariance[np.ix_(at, at)] = free_covariance.astype(np.float64)
        residuals = (rest * y_scale).astype(np.float64) / np.sqrt(weights)
    return _assemble(readings, model, values, unit_covariance, statistics, solution.leverage, residuals)


def _assemble(
    readings: Readings,
    model: LinearModel,
    values: dict[str, float],
    unit_covariance: Array,
    statistics: Statistics,
    used_leverage: Array,
    used_residuals: Array,
) -> Fit:
    """Spread the results of a solve over all rows and dress the parameters with their uncertainties."""
    used = readings.used
    finite = np.isfinite(readings.x)
    fitted = np.full(len(readings), np.nan)
    residuals = np.full(len(readings), np.nan)
    leverage = np.full(len(readings), np.nan)
    with np.errstate(over="ignore", invalid="ignore"):
        fitted[finite] = model.evaluate(readings.x[finite], values)
        observed = finite & np.isfinite(readings.y)
        residuals[observed] = readings.y[observed] - fitted[observed]
    residuals[used] = used_residuals
    leverage[used] = used_leverage

    degrees = statistics.degrees_of_freedom
    deviation = readings.reference_error if readings.absolute_errors else statistics.residual_standard_deviation
    with np.errstate(over="ignore", under="ignore", invalid="ignore"):
        covariance = unit_covariance * (np.nan if deviation is None else deviation**2)
        unit_errors = np.sqrt(np.diag(unit_covariance))
    parameters = {
        name: Parameter(
            name=name,
            value=values[name],
            standard_error=None if deviation is None or name in model.fixed else float(unit_errors[i] * deviation),
            fixed=name in model.fixed,
            degrees_of_freedom=degrees,
            absolute=readings.absolute_errors,
            exact=statistics.exact,
        )
        for i, name in enumerate(model.parameter_names)
    }
    return Fit(readings, model, parameters, covariance, statistics, fitted, residuals, leverage, unit_covariance)
