"""Answers with what all readings share in their limits; see ``shared_errors``."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import reduce

import numpy as np
from scipy.special import ndtri

from ridge.core.carrying.shared_errors import Moved, combined, widened
from ridge.core.errors import RidgeError
from ridge.core.predicting.at_x import Prediction
from ridge.core.predicting.at_y import solve
from ridge.core.predicting.features import Place, Quantity
from ridge.core.predicting.solution import Solution
from ridge.core.readings import Array
from ridge.core.results.fit import Fit


def prediction_with_shared(found: Prediction, moved: Sequence[Moved]) -> Prediction:
    """y at x: the curve's own limits and those of a new reading, each taken for the true value there."""
    if not moved:
        return found
    with np.errstate(over="ignore", invalid="ignore"):
        effects = [(one.up.evaluate(found.x) - one.down.evaluate(found.x)) / 2 for one in moved]
        shared: Array = reduce(np.hypot, effects, np.zeros(found.x.shape))
        far = float(ndtri((1 + found.level) / 2)) * shared

        def side(end: Array) -> Array:
            return np.hypot(found.value - end, far)

        return replace(
            found, standard_error=np.hypot(found.standard_error, shared), mean_low=found.value - side(found.mean_low),
            mean_high=found.value + side(found.mean_high), low=found.value - side(found.low),
            high=found.value + side(found.high),
        )  # fmt: skip


def solution_with_shared(found: Solution, fit: Fit, y: float, moved: Sequence[Moved]) -> Solution:
    """x at a y that was read with the same instrument, so that the reading moves with the others: a zero that is off takes nothing from
    what a calibration in y gives."""
    if not moved or found.standard_error is None or found.touches:
        return found
    shared = combined([_effect_on_x(one, found.value, y, fit) for one in moved])
    low, high = widened(found.value, found.low, found.high, shared, found.level)
    bounded = bool(np.isfinite(low) and np.isfinite(high))
    error = float(np.hypot(found.standard_error, shared))
    return replace(found, standard_error=error, low=low, high=high, bounded=bounded)


def _effect_on_x(moved: Moved, x: float, y: float, fit: Fit) -> float:
    """Infinite where a moved curve no longer takes the value near there."""
    shift = moved.error.at_y(fit.readings.y, y)
    try:
        up, down = (
            min((one.value for one in solve(curve, at)), key=lambda value: abs(value - x))
            for curve, at in ((moved.up, y + shift), (moved.down, y - shift))
        )
    except RidgeError:
        return np.inf
    return (up - down) / 2


def quantity_with_shared(found: Quantity, moved: Sequence[Moved], of: Callable[[Fit], float], level: float) -> Quantity:
    """A slope or an area; ``of``: the same of another fit."""
    if not moved or found.standard_error is None:
        return found
    shared = combined([one.effect(of) for one in moved])
    low, high = widened(found.value, found.low, found.high, shared, level)
    return Quantity(found.value, float(np.hypot(found.standard_error, shared)), low, high)


Places = Sequence[Place]


def place_with_shared(
    found: Place, moved: Sequence[Moved], again: Sequence[tuple[Places, Places]], level: float
) -> Place:
    """A zero, a turning point, an inflexion or an intersection; ``again``: where the same are with each error, up and down."""
    if not moved or found.x_error is None:
        return found
    across, up = [], []
    for ends in again:
        first, second = (_nearest(found, places) for places in ends)
        known = first is not None and second is not None
        across.append((first.x - second.x) / 2 if known else np.inf)  # type: ignore[union-attr]
        up.append((first.y - second.y) / 2 if known else np.inf)  # type: ignore[union-attr]
    of_x, of_y = combined(across), combined(up)
    x_low, x_high = widened(found.x, found.x_low, found.x_high, of_x, level)
    y_low, y_high = widened(found.y, found.y_low, found.y_high, of_y, level)
    return replace(
        found, x_error=float(np.hypot(found.x_error, of_x)), x_low=x_low, x_high=x_high,
        y_error=None if found.y_error is None else float(np.hypot(found.y_error, of_y)), y_low=y_low, y_high=y_high,
    )  # fmt: skip


def _nearest(found: Place, places: Places) -> Place | None:
    alike = [place for place in places if place.kind == found.kind]
    return min(alike, key=lambda place: abs(place.x - found.x)) if alike else None
