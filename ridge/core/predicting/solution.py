"""A solution of curve(x) = y."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.errors import BeyondDoubles
from ridge.core.predicting.beyond import distance_beyond, in_ranges
from ridge.core.results.fit import Fit

MOST = 60
"""Solutions that are given; of a curve that takes a value more often, the nearest ones."""


@dataclass(frozen=True)
class Solution:
    """One x at which the curve takes the wanted y, in the unit of x.

    ``standard_error`` is None where the scatter is unknown. ``low`` and ``high`` are the limits at ``level``: for a
    line Fieller's. A side without an end is infinite, and ``bounded`` is then False.
    """

    value: float
    standard_error: float | None
    low: float
    high: float
    bounded: bool
    beyond: float
    beyond_ranges: float
    level: float
    profiled: bool = False
    """Whether the limits follow the profile of the sum of squares, since those from the band would mislead."""
    unchecked: bool = False
    """Whether they are from the band although that may mislead: nothing was refitted yet, or it would cost too much."""
    touches: bool = False
    """Whether the curve does not take the value there but turns so near to it that a reading could well have it."""


def place(fit: Fit, value: float, error: float | None, low: float, high: float, level: float) -> Solution:
    """A solution with where it stands to the readings. Raises BeyondDoubles."""
    if not np.isfinite(value):
        raise BeyondDoubles("x of that y")
    beyond = float(distance_beyond(fit.readings, value))
    bounded = bool(np.isfinite(low) and np.isfinite(high))
    return Solution(value, error, low, high, bounded, beyond, float(in_ranges(fit.readings, beyond)), level)
