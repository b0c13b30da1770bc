"""Orthogonal distance regression: uncertainties of x count as well as those of y.

By ODRPACK95 (Zwolak, Boggs and Watson, ACM Trans. Math. Software 33, 2007), through the package odrpack.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from odrpack import odr_fit

from ridge.core.errors import NoFit, OutsideSense
from ridge.core.fitting.dress import dress
from ridge.core.fitting.fitted_curve import NonlinearCurve
from ridge.core.fitting.solved import Solved
from ridge.core.fitting.sums import total_sum
from ridge.core.models import Model
from ridge.core.readings import Array, Readings
from ridge.core.results.fit import Fit

LAST_DIGITS, STEPS = 1e-15, 500
"""Change of the sum of squares and of the parameters at which ODRPACK's steps end, and how many of them there are at most."""
EXACT = 1e-28
"""Share of the sum of squares about the mean that is the rounding of readings which all lie on the curve."""


def fit_orthogonal(readings: Readings, model: Model, start: Fit) -> Fit:
    """Minimise Σ (δx/u_x)² + (δy/u_y)² over parameters and true x, from the least-squares fit in y ``start``.

    ``residuals`` are observed minus fitted y at the measured x. Sums of squares are of the weighted distances, in
    units of y as ``Readings.reference_error`` scales them; leverage is that of the fit in y with each reading's
    uncertainty of x carried over by the slope. Raises OutsideSense where an uncertainty is missing, NoFit where the
    search does not settle.
    """
    used = readings.used
    if readings.x_error is None or readings.y_error is None:
        raise OutsideSense("least_squares_in", "orthogonal distances need uncertainties of x and of y.")
    x_error, y_error = readings.x_error[used], readings.y_error[used]
    if not np.all(np.isfinite(x_error) & (x_error > 0)):
        raise OutsideSense("x_error", "must be a positive number for every reading in use.")
    x, y = readings.x[used], readings.y[used]
    weight = readings.used_counts if readings.weight is None else readings.weight[used] * readings.used_counts
    free = [name for name in model.free_names if name not in start.model.fixed]
    fixed = dict(start.model.fixed)
    at = [model.parameter_names.index(name) for name in free]

    def values_of(beta: Array) -> dict[str, float]:
        return fixed | dict(zip(free, beta.tolist(), strict=True))

    # y in units of its size, so that the package's scales fit any unit.
    size = float(np.max(np.abs(y))) or 1.0
    span = float(np.ptp(x)) or 1.0
    with np.errstate(all="ignore"):
        result = odr_fit(
            lambda x_, beta: np.asarray(model.evaluate(x_ * span, values_of(beta)) / size),
            x / span,
            y / size,
            np.array([start.parameters[name].value for name in free]),
            weight_x=weight * (span / x_error) ** 2,
            weight_y=weight * (size / y_error) ** 2,
            jac_beta=lambda x_, beta: np.ascontiguousarray(model.gradient(x_ * span, values_of(beta))[:, at].T / size),
            jac_x=lambda x_, beta: np.asarray(model.slope(x_ * span, values_of(beta)) * span / size),
            maxit=STEPS,
            sstol=LAST_DIGITS,
            partol=LAST_DIGITS,
        )
    if not np.all(np.isfinite(result.beta)) or result.info >= 10000:
        raise NoFit("The orthogonal distances did not settle. Check the uncertainties, or use least squares in y.")
    values = {name: values_of(result.beta)[name] for name in model.parameter_names}
    kept = model.with_fixed(fixed)
    reference = readings.reference_error
    count = len(model.parameter_names)
    covariance = np.zeros((count, count))
    covariance[np.ix_(at, at)] = result.cov_beta / reference**2
    # A root of the covariance, rows of size one, for the variance of the curve.
    errors = np.sqrt(np.diag(covariance))
    sizes = np.where(errors > 0, errors, 1.0)
    eigenvalues, vectors = np.linalg.eigh(covariance / np.outer(sizes, sizes))
    root = vectors * np.sqrt(np.maximum(eigenvalues, 0))
    residuals = y - kept.evaluate(x, values)
    carried = y_error**2 + (kept.slope(x, values) * x_error) ** 2
    design = kept.gradient(x, values)[:, at] * np.sqrt(weight / carried)[:, None]
    basis = np.linalg.qr(design / np.maximum(np.max(np.abs(design), axis=0), 1e-300))[0]
    rss = float(result.sum_square) * reference**2
    weights = readings.used_weights
    total = total_sum(y, weights, kept)
    regression = max(total - rss, 0.0)
    solved = Solved(
        kept, values, covariance, NonlinearCurve(kept, values, root, sizes), residuals, np.sum(basis**2, axis=1),
        rss, regression, regression / rss if rss > 0 else np.inf, rss <= EXACT * total, start.held, start.cut_short,
    )  # fmt: skip
    return replace(dress(readings, solved), least_squares_in="orthogonal")
