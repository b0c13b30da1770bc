"""Signs of how the readings were recorded: copied rows, a coarse display, the end of an instrument's range, too few places."""

from __future__ import annotations

from dataclasses import dataclass
from math import floor, log10, sqrt

import numpy as np
import numpy.typing as npt

from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import REFIT, Effort
from ridge.core.judging.comparison import refit
from ridge.core.judging.misses import typical_miss
from ridge.core.predicting.at_x import predict
from ridge.core.readings import Array, Mask, Readings
from ridge.core.results.fit import Fit, once

FEW = 5
"""Readings from which on a step of y is looked for: fewer may share one by chance."""
DIGITS, WHOLE = 9, 1e-6
"""Decimals of the largest value in which a step is looked for, and how far from a whole number of steps a value may be by rounding."""
RUN = 5
"""Rows in a row that repeat earlier ones from which on they are copies: so many do not agree by chance."""
ALL = 0.9
"""Share of the repeated x at which y is repeated too from which on rows are copies."""
STEP_COUNTS, STEP_EXPLAINS = 0.5, sqrt(1 + 1 / 12)
"""Standard deviation of the residuals, in steps of y, below which rounding is nearly all of it; and below which the step is larger
than the scatter without it (its own standard deviation is 1/√12), so that a pattern may be due to it."""
BEYOND = 0.99
"""Confidence level at which the curve of the other readings must pass the end of the range."""


@dataclass(frozen=True)
class CoarseStep:
    """``step`` of the recorded y, and what the residuals typically are."""

    step: float
    scatter: float


@dataclass(frozen=True)
class EndOfRange:
    """``rows`` that all have the same ``value``, the largest (``top``) or smallest; ``expected``: farthest value of the curve of
    the others there."""

    rows: tuple[int, ...]
    value: float
    top: bool
    expected: float


def copied_rows(readings: Readings) -> tuple[int, ...]:
    """Return the rows with the same x and y as earlier ones, where so many do not agree by chance; 0-based.

    >>> copied_rows(Readings([1, 2, 3, 1, 2, 3], [2.1, 3.9, 6.2, 2.1, 3.9, 6.2]))
    (3, 4, 5)
    """
    rows = np.flatnonzero(readings.used)
    again = len(rows) - len(np.unique(readings.x[rows]))
    if readings.count is not None or len(rows) < 4 or again < 3:
        return ()  # before rows are compared, which takes long for many
    pairs = np.stack([readings.x[rows], readings.y[rows]], axis=1)
    _, first, which = np.unique(pairs, axis=0, return_index=True, return_inverse=True)
    earlier = first[which.reshape(-1)]
    copies = earlier < np.arange(len(rows))
    number = int(copies.sum())
    if number < 3 or len(np.unique(readings.x[rows][copies])) < 2:
        return ()
    if number < ALL * again and _longest_run(earlier, copies) < RUN:
        return ()
    return tuple(rows[copies].tolist())


def _longest_run(earlier: npt.NDArray[np.intp], copies: Mask) -> int:
    longest = run = 0
    for i in range(len(earlier)):
        run = (run + 1 if run and earlier[i] == earlier[i - 1] + 1 else 1) if copies[i] else 0
        longest = max(longest, run)
    return longest


def step_of(values: Array, least: float = 0.0) -> float | None:
    """Return the largest step 1, 2 or 5 times a power of ten of which all values are multiples; None for fewer than five of them,
    for one or two distinct ones, where they have more than eight digits, and for a step not larger than ``least``.

    >>> step_of(np.array([1.5, 2.0, 2.5, 4.0, 7.5]))
    0.5
    """
    distinct = np.unique(values)
    if len(values) < FEW or len(distinct) < 3:
        return None
    largest = float(np.max(np.abs(distinct)))
    highest = floor(log10(largest))
    for exponent in range(highest, highest - DIGITS, -1):
        for factor in (5, 2, 1):
            step = float(f"{factor}e{exponent}")
            if step <= least:
                return None
            steps = distinct / step
            if np.all(np.abs(steps - np.round(steps)) < WHOLE):
                return step
    return None


def coarse_step(fit: Fit, patterned: bool) -> CoarseStep | None:
    """A step of y so large that the residuals are mostly its rounding; ``patterned``: whether they show a pattern, which a step
    larger than the scatter explains."""
    scatter = typical_miss(fit)
    if not scatter:
        return None
    step = step_of(fit.readings.y[fit.readings.used], scatter / (STEP_EXPLAINS if patterned else STEP_COUNTS))
    return None if step is None else CoarseStep(step, scatter)


@once
def end_of_range(fit: Fit) -> EndOfRange | None:
    """Three or more readings at exactly the largest or smallest y, where the curve of the others goes on beyond."""
    used = np.flatnonzero(fit.readings.used)
    y = fit.readings.y[used]
    for top in (True, False):
        value = float(y.max() if top else y.min())
        at = used[y == value]
        if not 3 <= len(at) <= len(used) - max(4, len(fit.model.free_names) + 2):
            continue
        expected = _beyond(fit, at, value, top)
        if expected is not None:
            return EndOfRange(tuple(at.tolist()), value, top, expected)
    return None


def _beyond(fit: Fit, at: npt.NDArray[np.intp], value: float, top: bool) -> float | None:
    """The farthest value of the curve fitted without these rows, where at all of them it is no nearer than ``value`` and at half of
    them beyond by more than the limits of a new reading; None otherwise."""
    included = fit.readings.included.copy()
    included[at] = False
    try:
        others = refit(fit, included, Effort(REFIT))
        band = predict(others, fit.readings.x[at], level=BEYOND)
    except RidgeError:
        return None
    sign = 1 if top else -1
    past = sign * (band.value - value)
    half = band.high - band.value
    if not (np.all(past > -half) and np.count_nonzero(past > half) >= len(at) / 2):
        return None
    return float(band.value[int(np.argmax(past))])


def few_places(fit: Fit) -> int | None:
    """The number of distinct x where there are as many as parameters, though more readings: nothing tests the shape then."""
    used = fit.readings.used
    places = len(np.unique(fit.readings.x[used]))
    free = len(fit.model.free_names)
    return places if free >= 2 and places <= free < int(used.sum()) else None
