"""x at a y from any curve: every solution in an interval, with limits."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ridge.core.predicting.at_y import Solution, place
from ridge.core.predicting.crossings import bracketed, find_crossings, search_grid
from ridge.core.readings import Array

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit

REACH = 3.0
"""How many measured ranges beyond the readings x is looked for, unless an interval is given."""


def default_interval(fit: Fit) -> tuple[float, float]:
    """The measured range and ``REACH`` times its width on either side."""
    low, high = fit.readings.measured_range
    width = (high - low) or abs(high) or 1.0
    return low - REACH * width, high + REACH * width


def cycles_within(fit: Fit, low: float, high: float) -> float:
    """How often a periodic model repeats between two x."""
    frequency = fit.values.get("angular_frequency")
    if frequency is None:
        return 0.0
    turn = 360.0 if getattr(fit.model, "degrees", False) else 2 * np.pi
    return abs(frequency) * (high - low) / turn


def solve_curve(
    fit: Fit, target: float, repeats: int, level: float, interval: tuple[float, float] | None
) -> list[Solution]:
    """Every x of the interval at which the curve takes the value ``target``, the mean of ``repeats`` readings.

    Standard error by the delta method, √(s²/repeats + variance of the curve)/|slope|. The limits hold the x
    at which a new mean of so many readings could well be ``target``: |curve(x) − target| ≤ t·√(s²/repeats + variance
    of the curve at x), around the solution (for a line these are Fieller's limits; Draper and Smith, section 3.2).
    A side that runs on to the end of what is looked at is infinite.
    """
    low, high = interval or default_interval(fit)
    span = high - low
    usual = default_interval(fit)
    farthest = min(low, usual[0]), max(high, usual[1])
    inverse = _Inverse(fit, target, repeats, level)
    y = fit.readings.y[fit.readings.used]
    touching = 1e-12 * float(np.max(np.abs(y), initial=0.0))
    roots = find_crossings(inverse.off, search_grid(low, high, cycles_within(fit, low, high)), touching)
    # Two crossings within rounding of each other are one touch.
    kept = [root for i, root in enumerate(roots) if not i or root - roots[i - 1] > 1e-12 * span]
    solutions = []
    for root in kept:
        error = inverse.standard_error(root)
        ends = (-np.inf, np.inf)
        if inverse.width is not None:
            ends = (
                inverse.limit(root, farthest[0], error, -1.0),
                inverse.limit(root, farthest[1], error, 1.0),
            )
        solutions.append(place(fit, root, error, *ends, level))
    return solutions


class _Inverse:
    """The band of the curve, seen from one y."""

    def __init__(self, fit: Fit, target: float, repeats: int, level: float) -> None:
        self.fit, self.target, self.repeats = fit, target, repeats
        self.width = fit.critical_value(level)
        self.deviation = fit.reading_deviation
        if self.deviation is None:
            self.width = None

    def off(self, x: Array) -> Array:
        return self.fit.curve.value(x) - self.target

    def error_of_y(self, x: Array) -> Array:
        """Standard deviation of curve minus mean of the new readings; in logarithms the scatter grows with y."""
        assert self.deviation is not None
        sizes = 1.0 if self.fit.log_line is None else np.square(self.fit.curve.value(x))
        return np.sqrt(sizes * self.deviation**2 / self.repeats + self.deviation**2 * self.fit.curve.unit_variance(x))

    def standard_error(self, x: float) -> float | None:
        if self.deviation is None or self.width is None:
            return None
        with np.errstate(all="ignore"):
            slope = float(self.fit.curve.slope(np.array([x]))[0])
            error = float(self.error_of_y(np.array([x]))[0]) / abs(slope) if slope else np.inf
        return error if np.isfinite(error) else np.inf

    def _outside(self, x: Array) -> Array:
        """Positive where the target is not within the band at x."""
        assert self.width is not None
        with np.errstate(all="ignore"):
            return np.abs(self.off(x)) - self.width * self.error_of_y(x)

    def limit(self, root: float, end: float, error: float | None, side: float) -> float:
        """Where the band ends on one side of a solution; infinite where it does not before the interval's end."""
        reach = abs(end - root)
        if not reach:
            return float(side * np.inf)
        first = min(max((error or 0.0) * 0.25, reach * 1e-9), reach) if np.isfinite(error or 0.0) else reach * 1e-3
        distances = np.unique(np.concatenate([np.geomspace(first, reach, 200), np.linspace(0, reach, 400)[1:]]))
        outside = self._outside(root + side * distances)
        past = np.flatnonzero(outside > 0)
        if not len(past):
            return float(side * np.inf)
        inner = float(distances[past[0] - 1]) if past[0] else 0.0
        outer = float(distances[past[0]])
        if not self._outside(np.array([root + side * inner]))[0] < 0:
            return float(root + side * inner)
        found = bracketed(lambda d: float(self._outside(np.array([root + side * d]))[0]), inner, outer)
        return float(root + side * found)
