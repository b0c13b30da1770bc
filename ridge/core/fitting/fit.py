"""Fitting a model to readings by least squares."""

from __future__ import annotations

from collections.abc import Mapping
from itertools import product
from math import sqrt

import numpy as np

from ridge.core.errors import FormulaError, NotIdentifiable, OutsideSense, TooFewReadings
from ridge.core.fitting.effort import USUAL, Effort
from ridge.core.fitting.linear_fit import solve_linear
from ridge.core.fitting.nonlinear_fit import solve_nonlinear
from ridge.core.fitting.redundancy import without_meaning_at_zero
from ridge.core.fitting.result import Fit, Parameter
from ridge.core.fitting.scene import Bounds
from ridge.core.fitting.solved import Held, Prepared, Solved, power_of_two, prepare, reach_of
from ridge.core.judging.searched import Searched
from ridge.core.judging.statistics import compute_statistics
from ridge.core.models import Model
from ridge.core.readings import Array, Readings


def fit(
    readings: Readings,
    model: Model,
    *,
    start: Mapping[str, float] | None = None,
    fixed: Mapping[str, float] | None = None,
    bounds: Bounds | None = None,
    x_range: tuple[float, float] | None = None,
    least_squares_in: str = "y",
    effort: Effort | None = None,
) -> Fit:
    """Fit ``model`` to the readings in use by weighted least squares.

    Models that are linear in their parameters are solved outright, in extended precision. The others need no
    starting values: the parameters that enter linearly are eliminated (Golub and Pereyra 1973), the rest is
    searched on scales taken from the readings, and the best minimum is polished with exact derivatives until the
    last digits stand. The same input gives the same output.

    Parameters
    ----------
    start : mapping, optional
        Values to begin from, by parameter name; the minimum downhill from there is taken instead of the best one.
        Parameters that enter linearly are solved for at once, so that their starts do not matter.
    fixed : mapping, optional
        Parameters kept at a value.
    bounds : mapping, optional
        Lowest and highest value by parameter name; infinities for no bound.
    x_range : (low, high), optional
        Only readings in this stretch of x take part.
    least_squares_in : "y", "logarithms" or "orthogonal"
        "logarithms": a straight line through ln y (exponential), ln y against ln x (power) or y against ln x
        (logarithmic), as textbooks and calculators do; see ``ridge.core.fitting.logarithms``. "orthogonal": distances
        in x and y, each in units of its uncertainty; see ``ridge.core.fitting.errors_in_x``.
    effort : Effort, optional
        Work after which the search stops with the best so far; a caution says so. Left out: ``effort.USUAL``. It counts
        operations, not seconds, so that the same input gives the same output on a busy machine too.

    Weights enter as in ``Readings.used_weights``.

    Raises
    ------
    TooFewReadings
        Fewer readings in use than parameters that they could tell.
    NotIdentifiable
        The x values cannot tell the parameters of a linear model apart.
    UndefinedAt
        The model has no value at some readings.
    NoFit
        No parameters give the model a value at every reading.
    OutsideSense
        A fixed value, bound, start or weight outside sense.
    BeyondDoubles
        A parameter or a sum of squares is beyond what a double can hold.
    """
    if x_range is not None:
        readings = readings.within(*x_range)
    if fixed:
        model = model.with_fixed(fixed)
    start, bounds = _checked(model, start or {}, bounds or {})
    if least_squares_in == "logarithms":
        from ridge.core.fitting.logarithms import fit_in_logarithms

        return fit_in_logarithms(readings, model)
    if least_squares_in == "orthogonal":
        from ridge.core.fitting.errors_in_x import fit_orthogonal

        return fit_orthogonal(readings, model, fit(readings, model, start=start, bounds=bounds, effort=effort))
    if least_squares_in != "y":
        raise OutsideSense("least_squares_in", "is 'y', 'logarithms' or 'orthogonal'.")
    n = int(readings.used.sum())
    if n == 0 or (model.linear_form is not None and n < len(model.free_names)):
        raise TooFewReadings(max(1, len(model.free_names)), n)
    prepared = prepare(readings)
    if not model.parameter_names:
        text = model.formula
        raise FormulaError(
            "The formula has no parameter to fit. Put a letter where a number is to be found.", 0, len(text), text
        )
    if not model.free_names and model.linear_form is None:
        raise OutsideSense("fixed", "keeps every parameter, so there is nothing to fit.")
    if model.linear_form is not None:
        return dress(readings, _solve_linear(prepared, model, bounds))
    solved = solve_nonlinear(prepared, model, start, bounds, Effort(USUAL) if effort is None else effort)
    linear = set(model.free_names) <= set(model.linear)
    return dress(readings, solved, None if linear else Searched(readings, model, bounds))


def _checked(model: Model, start: Mapping[str, float], bounds: Bounds) -> tuple[dict[str, float], Bounds]:
    for name in (*start, *bounds):
        if name not in model.parameter_names:
            raise OutsideSense(name, f"is no parameter of this model; it has {', '.join(model.parameter_names)}.")
    for name, value in start.items():
        if not np.isfinite(value):
            raise OutsideSense(name, "must start from a finite number.")
    for name, (low, high) in bounds.items():
        if not low < high:
            raise OutsideSense(name, "its lower bound must be smaller than its upper one.")
    free = {name: (float(low), float(high)) for name, (low, high) in bounds.items() if name not in model.fixed}
    return {name: float(value) for name, value in start.items() if name not in model.fixed}, free


def _solve_linear(prepared: Prepared, model: Model, bounds: Bounds) -> Solved:
    """Within bounds, the best of the solves with each bounded parameter free or at one of its bounds."""
    form = model.linear_form
    assert form is not None
    free = solve_linear(prepared, model, form)
    if all(low <= free.values[name] <= high for name, (low, high) in bounds.items()):
        return free
    if len(bounds) > 6:
        raise OutsideSense("bounds", "six bounded parameters at most in a model that is linear in its parameters.")
    best: Solved | None = None
    choices = [[None, *(edge for edge in bounds[name] if np.isfinite(edge))] for name in bounds]
    for choice in product(*choices):
        kept = {name: float(edge) for name, edge in zip(bounds, choice, strict=True) if edge is not None}
        if not kept:
            continue
        try:
            found = solve_linear(prepared, model.with_fixed(kept), form)
        except NotIdentifiable:
            continue
        inside = all(low <= found.values[name] <= high for name, (low, high) in bounds.items())
        if inside and (best is None or found.rss < best.rss):
            held = tuple(Held(name, value, "bound") for name, value in kept.items())
            best = Solved(**{**vars(found), "held": held})
    if best is None:
        raise OutsideSense("bounds", "leave no parameters that the readings could tell.")
    return best


def correlation_of(x: Array, y: Array, weights: Array) -> float | None:
    """Weighted correlation; None where one of the two does not vary."""

    def about_mean(values: Array) -> Array:
        low, high = values.min(), values.max()
        scaled = values - low if 1e-140 < high - low < 1e140 else (values / 2 - low / 2) / ((high / 2 - low / 2) or 1.0)
        return np.asarray(scaled - weights @ scaled / total)

    total = weights.sum()
    du, dv = about_mean(x), about_mean(y)
    spread = sqrt(weights @ (du * du)) * sqrt(weights @ (dv * dv))
    return min(1.0, max(-1.0, float(weights @ (du * dv)) / spread)) if spread > 0 else None


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
    rest = ~used & np.isfinite(readings.x)
    with np.errstate(over="ignore", invalid="ignore"):
        fitted[rest] = solved.curve.value(readings.x[rest])
        residuals[rest] = np.where(np.isfinite(readings.y[rest]), readings.y[rest] - fitted[rest], np.nan)
    return fitted, residuals, leverage


def total_sum(y: Array, weights: Array, model: Model, about: str = "") -> float:
    """Weighted sum of the squared differences of y from what the model is compared with; or from ``about``, "constant" (the
    weighted mean) or "zero"."""
    size = power_of_two(reach_of(np.abs(y)))
    scaled, centre = y / size, np.longdouble(0)
    match about or model.null:
        case "constant":
            centre = np.dot(weights, scaled) / np.longdouble(weights.sum())
        case "fixed":
            centre = model.fixed[model.constant or ""] / size
    difference = scaled - centre
    with np.errstate(over="ignore", under="ignore"):
        return float(np.dot(weights * difference, difference) * size * size)


def r_squared(y: Array, weights: Array, model: Model, rss: float, ratio: float, about: str) -> float | None:
    """Share of the variation about the mean ("constant") or "zero"; None where there is none.

    Where that is what the model is compared with, from ``ratio``, the regression over the residual sum of squares, which
    keeps digits that a difference would lose.
    """
    if (np.ptp(y) if about == "constant" else np.max(np.abs(y))) == 0:
        return None
    if model.null == about:
        return _share(ratio)
    total = total_sum(y, weights, model, about)
    return 1 - rss / total if total > 0 else None


def _share(ratio: float) -> float:
    """R² from the ratio of the regression to the residual sum of squares."""
    return 1.0 if np.isinf(ratio) else ratio / (1 + ratio)
