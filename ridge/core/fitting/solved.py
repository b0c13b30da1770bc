"""What every way of solving hands on to be dressed as a fit."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import isfinite

import numpy as np

from ridge.core.errors import BeyondDoubles, OutsideSense
from ridge.core.models.base import Extended, ExtendedNumber, Model
from ridge.core.readings import Array, Readings
from ridge.core.results.curve import Curve
from ridge.core.results.parameter import Held

THROUGH = 1e-9
"""Share of the largest y by which a curve may miss a reading that it goes through."""
EPSILON, TINY = float(np.finfo(np.float64).eps), float(np.finfo(np.float64).tiny)


@dataclass(frozen=True)
class Solved:
    """Parameters and sums of one solve.

    Sums of squares are in squared units of y; ``residuals`` and ``leverage`` belong to the readings in use;
    ``unit_covariance`` has a row per parameter, zeros for fixed ones, for readings of variance one.
    """

    model: Model
    values: dict[str, float]
    unit_covariance: Array
    curve: Curve
    residuals: Array
    leverage: Array
    rss: float
    regression: float
    ratio: float
    exact: bool
    held: tuple[Held, ...] = ()
    cut_short: bool = False
    passed_over: float = 1.0
    """Share of ``rss`` that the best minimum has: below one where a slower wave was chosen."""


@dataclass(frozen=True)
class Prepared:
    """Readings in use, scaled so that y is of size one.

    ``reach``: size of the largest y, in its own unit. ``root``: square roots of the weights, None where all are one.
    """

    readings: Readings
    x: Array
    long_x: Extended
    target: Extended
    y_scale: ExtendedNumber
    reach: ExtendedNumber
    weights: Array
    root: Extended | None


def power_of_two(reach: ExtendedNumber) -> ExtendedNumber:
    """The power of two, exact in binary, that brings values of this size to at most one; 1 for zero."""
    return np.longdouble(np.ldexp(np.longdouble(1), int(np.frexp(reach)[1])))


def reach_of(values: Array | Extended, about: ExtendedNumber | float = 0.0) -> ExtendedNumber:
    """Farthest distance of the values from a point."""
    return np.longdouble(max(values.max() - about, about - values.min()))


def among_all(model: Model, names: Sequence[str], matrix: Array) -> Array:
    """A matrix over some parameters as one over all of them, zeros for the others."""
    if tuple(names) == model.parameter_names:
        return matrix
    count = len(model.parameter_names)
    at = [model.parameter_names.index(name) for name in names]
    whole = np.zeros((count, count))
    whole[np.ix_(at, at)] = matrix
    return whole


def prepare(readings: Readings) -> Prepared:
    """The readings in use, ready to be solved. Raises OutsideSense for weights too large to be added up."""
    used = readings.used
    x, weights, root = readings.x[used], readings.used_weights, None
    if readings.weighted:
        with np.errstate(over="ignore"):
            if not np.isfinite(weights.sum()):
                raise OutsideSense(
                    "weight", "the weights are too large to be added up. Divide all of them by the same number."
                )
        root = None if (weights == 1).all() else np.sqrt(weights.astype(np.longdouble))
    target = readings.y[used].astype(np.longdouble)
    reach = reach_of(target)
    y_scale = power_of_two(reach)
    target /= y_scale
    return Prepared(readings, x, x.astype(np.longdouble), target, y_scale, reach, weights, root)


def sums(
    prepared: Prepared, rss: ExtendedNumber, regression: ExtendedNumber, farthest: ExtendedNumber, free: int
) -> tuple[float, float, float, bool]:
    """Residual and regression sum of squares, their ratio, and whether the fit is exact.

    ``rss``, ``regression`` and ``farthest`` (the largest weighted residual) in units of ``y_scale``. A fit is exact
    where no residual is larger than the rounding of the readings. Raises BeyondDoubles.
    """
    n = len(prepared.x)
    largest = max(prepared.reach, prepared.y_scale / 2)
    heaviest = 1.0 if prepared.root is None else np.longdouble(np.sqrt(prepared.weights.max()))
    noise = 4 * EPSILON * heaviest * largest / prepared.y_scale
    exact = n > free and bool(farthest <= noise)
    if n == free and farthest <= THROUGH * largest / prepared.y_scale * heaviest:
        rss = np.longdouble(0)
    if regression <= n * noise**2 and np.ptp(prepared.target) == 0:
        regression = np.longdouble(0)
    held = []
    with np.errstate(over="ignore", under="ignore"):
        for sum_of_squares in (rss, regression):
            held.append(float(sum_of_squares * prepared.y_scale**2))
            if not isfinite(held[-1]) or (sum_of_squares > 0 and held[-1] < TINY):
                raise BeyondDoubles("sum of squares")
        return held[0], held[1], float(regression / rss) if rss > 0 else np.inf, exact


def check_values(values: dict[str, float]) -> None:
    """Raise BeyondDoubles for a parameter that a double cannot hold."""
    for name, value in values.items():
        if not isfinite(value):
            raise BeyondDoubles(name)
