"""How well a fit does in the unit of y, whatever least squares was done in and however the readings are weighted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.fitting.solved import THROUGH
from ridge.core.readings import Array
from ridge.core.results.fit import Fit


def typical_miss(fit: Fit) -> float | None:
    """√(Σ residual² / degrees of freedom) of the plain residuals, each as often as it occurred, in the unit of y.

    Without weights this is s. None without degrees of freedom.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.judging.misses import typical_miss
    >>> round(typical_miss(line), 3)
    0.189
    """
    degrees = fit.statistics.degrees_of_freedom
    if degrees <= 0:
        return None
    residuals = fit.residuals[fit.readings.used]
    size = float(np.max(np.abs(residuals), initial=0.0))
    if not size:
        return 0.0
    return size * float(np.sqrt(fit.readings.used_counts @ (residuals / size) ** 2 / degrees))


def seen_residuals(fit: Fit) -> Array:
    """Residuals as they are to be drawn, shape (rows,): those that are nothing but the rounding of y are zero."""
    y = fit.readings.y[fit.readings.used]
    rounding = 8 * np.finfo(np.float64).eps * float(np.max(np.abs(y), initial=0.0))
    return np.where(np.abs(fit.residuals) <= rounding, 0.0, fit.residuals)


def through_every_reading(fit: Fit) -> bool:
    """Whether a curve with as many parameters as readings meets them all; a bent one need not."""
    used = fit.readings.used
    largest = float(np.max(np.abs(fit.readings.y[used]), initial=0.0))
    return bool(np.max(np.abs(fit.residuals[used]), initial=0.0) <= THROUGH * largest)


@dataclass(frozen=True)
class InY:
    """R² and adjusted R² about the mean of y, of the curve in y; None where they have no meaning."""

    r_squared: float | None
    adjusted_r_squared: float | None


def in_y(fit: Fit) -> InY:
    """The statistics by which fits made in logarithms and in y are compared: those of the curve in y."""
    statistics = fit.statistics
    if fit.log_line is None:
        return InY(statistics.r_squared, statistics.adjusted_r_squared)
    used, counts = fit.readings.used, fit.readings.used_weights
    residuals, y = fit.residuals[used], fit.readings.y[used]
    about = y - counts @ y / counts.sum()
    total = float(counts @ (about * about))
    if not total > 0:
        return InY(None, None)
    missed = float(counts @ (residuals * residuals)) / total
    degrees = statistics.degrees_of_freedom
    return InY(1 - missed, 1 - missed * (statistics.n - 1) / degrees if degrees > 0 else None)
