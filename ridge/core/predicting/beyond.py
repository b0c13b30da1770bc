"""How far a place on the x axis lies beyond the measured range."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ridge.core.readings import Array, Readings


def distance_beyond(readings: Readings, x: npt.ArrayLike) -> Array:
    """Distance from x to the nearest end of the measured range, in the unit of x; 0 inside it."""
    low, high = readings.measured_range
    x = np.asarray(x, dtype=float)
    with np.errstate(over="ignore"):
        return np.maximum(0.0, np.maximum(low - x, x - high))


def in_ranges(readings: Readings, distance: npt.ArrayLike) -> Array:
    """The same distance as a multiple of the width of the measured range (infinite where that is zero)."""
    low, high = readings.measured_range
    distance = np.asarray(distance, dtype=float)
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        return np.where(distance == 0, 0.0, distance / (high - low))
