"""Readings that two fits are made to alike, through which their scatter goes together."""

from __future__ import annotations

import numpy as np

from ridge.core.readings import Array, Mask
from ridge.core.results.fit import Fit


def rows_in_common(first: Fit, second: Fit) -> Mask | None:
    """Rows that both fits are made to, shape (rows,); None where they are fitted to different readings altogether."""
    one, other = first.readings, second.readings
    if len(one) != len(other) or not (
        np.array_equal(one.x, other.x, equal_nan=True) and np.array_equal(one.y, other.y, equal_nan=True)
    ):
        return None
    return np.asarray(one.used & other.used)


def weights_of(fit: Fit, rows: Mask) -> Array:
    """Weights of some of the rows in use."""
    every = np.zeros(len(fit.readings))
    every[fit.readings.used] = fit.readings.used_weights
    return every[rows]
