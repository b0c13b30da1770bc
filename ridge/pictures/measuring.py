"""Lengths and angles between places of a picture."""

from __future__ import annotations

from math import atan2, degrees, hypot

import numpy as np

from ridge.core.errors import OutsideSense
from ridge.core.readings import Array


def length(ends: Array) -> float:
    """Between two places, shape (2, 2), in the unit of both axes."""
    return hypot(*(ends[1] - ends[0]))


def angle(corner: Array) -> float:
    """Degrees from 0 to 180 at the second of three places, shape (3, 2).

    Raises OutsideSense where two of them are one.
    """
    first, second = corner[0] - corner[1], corner[2] - corner[1]
    if not hypot(*first) or not hypot(*second):
        raise OutsideSense("corner", "has two places at one.")
    first, second = (way / np.abs(way).max() for way in (first, second))
    # Stable also for angles near 0 and 180 degrees, unlike the inverse cosine.
    across = float(first[0] * second[1] - first[1] * second[0])
    return abs(degrees(atan2(across, float(np.dot(first, second)))))
