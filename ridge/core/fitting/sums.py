"""Sums of squares about what a model is compared with, and what follows from them."""

from __future__ import annotations

from math import sqrt

import numpy as np

from ridge.core.fitting.solved import power_of_two, reach_of
from ridge.core.models import Model
from ridge.core.readings import Array

FAR = 1e140
"""Differences larger than this, or smaller than its inverse, leave the doubles when they are squared."""


def correlation_of(x: Array, y: Array, weights: Array) -> float | None:
    """Weighted correlation; None where one of the two does not vary."""

    def about_mean(values: Array) -> Array:
        low, high = values.min(), values.max()
        scaled = values - low if 1 / FAR < high - low < FAR else (values / 2 - low / 2) / ((high / 2 - low / 2) or 1.0)
        return np.asarray(scaled - weights @ scaled / total)

    total = weights.sum()
    du, dv = about_mean(x), about_mean(y)
    spread = sqrt(weights @ (du * du)) * sqrt(weights @ (dv * dv))
    return min(1.0, max(-1.0, float(weights @ (du * dv)) / spread)) if spread > 0 else None


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
    brought = any(value for name, value in model.fixed.items() if name != model.constant)
    if model.null == about and not brought:  # otherwise the ratio is about what the fixed terms leave
        return _share(ratio)
    total = total_sum(y, weights, model, about)
    return 1 - rss / total if total > 0 else None


def _share(ratio: float) -> float:
    """R² from the ratio of the regression to the residual sum of squares."""
    return 1.0 if np.isinf(ratio) else ratio / (1 + ratio)
