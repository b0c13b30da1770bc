"""The scatter behind an x at a y: that of the fit, pooled with the repeated readings of the unknown sample where there are any."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.results.statistics import critical_value


@dataclass(frozen=True)
class Scatter:
    """Standard deviation of a reading of weight one, and the half-width of an interval in standard errors; None where unknown."""

    deviation: float | None
    width: float | None


def scatter_of(fit: Fit, level: float, repeats: Array) -> Scatter:
    """Return the scatter for the mean of ``repeats``, the readings of one sample, shape (k,).

    With k ≥ 2 the variance of the residuals, with d degrees of freedom, and that of the repeats are pooled:
    (d·s² + Σ(yᵢ − ȳ)²)/(d + k − 1) (Draper and Smith, "Applied Regression Analysis", 3rd ed., section 3.2). Known uncertainties
    and fits in logarithms are not pooled.
    """
    deviation, width = fit.reading_deviation, fit.critical_value(level)
    if (
        deviation is None
        or width is None
        or len(repeats) < 2
        or fit.readings.absolute_errors
        or fit.log_line is not None
    ):
        return Scatter(deviation, width)
    mean = float(np.mean(repeats))
    own = float(fit.readings.new_reading(mean))
    degrees = fit.statistics.degrees_of_freedom
    squares = degrees * deviation**2 + float(np.sum((repeats - mean) ** 2)) / own**2
    together = degrees + len(repeats) - 1
    return Scatter(float(np.sqrt(squares / together)), critical_value(level, together, False))
