"""The span and step of each parameter's handle, and values to begin with, all taken from the readings."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ridge.core.models import Model
from ridge.core.models.grips import Look
from ridge.core.readings import Readings

VISIBLE = 1 / 200
"""Share of the height of the readings by which one step moves the curve where it moves most."""
UNTOLD = 2.0**53
"""Steps beyond which a double cannot tell the next one any more."""
SMALLEST = 1e-290
"""Of all steps: what is smaller cannot be rounded to a multiple of a power of ten any more."""
STEPS = 150
"""Steps from the value to either end of its span."""


@dataclass(frozen=True)
class Handle:
    """Where a parameter can be turned to, in its own unit. ``at_x``: where the curve answers most to it."""

    name: str
    value: float
    low: float
    high: float
    step: float
    at_x: float


def handles(readings: Readings, model: Model, values: Mapping[str, float]) -> list[Handle]:
    """A handle for each parameter that is not fixed.

    One step moves the curve inside the measured range by a two-hundredth of the height of the readings where it moves
    most, rounded to 1, 2 or 5 times a power of ten; the span reaches 150 steps to either side.
    """
    first, last = readings.measured_range
    at = np.linspace(first, last, 121)
    y = readings.y[readings.used]
    height = (float(np.ptp(y)) if len(y) else 0.0) or float(np.max(np.abs(y), initial=0.0)) or 1.0
    all_values = {**model.fixed, **values}
    with np.errstate(all="ignore"):
        gradient = np.abs(model.gradient(at, all_values))
    found = []
    for place, name in enumerate(model.parameter_names):
        if name in model.fixed:
            continue
        moves = np.where(np.isfinite(gradient[:, place]), gradient[:, place], 0.0)
        most = int(np.argmax(moves))
        value = float(all_values[name])
        wanted = height * VISIBLE / float(moves[most]) if moves[most] > 0 else abs(value) / 100 or 0.01
        # Where the curve hardly answers at all, a step is not larger than the value itself.
        step = _round_step(min(max(wanted, SMALLEST), max(abs(value), 1.0)) if np.isfinite(wanted) else 0.01)
        middle = round_to_step(value, step)
        low, high = (round_to_step(middle + way * STEPS * step, step) for way in (-1, 1))
        found.append(Handle(name, value, low, high, step, float(at[most])))
    return found


def round_to_step(value: float, step: float) -> float:
    """The multiple of a step that is nearest, without the digits that multiplying leaves behind; the value itself where steps are too
    small for its digits to tell."""
    if not (step > 0 and abs(value) < step * UNTOLD):
        return value
    decimals = int(max(0, -np.floor(np.log10(step)) + 1))
    return round(round(value / step) * step, decimals) if decimals < 300 else value


def _round_step(step: float) -> float:
    decade = 10.0 ** np.floor(np.log10(step))
    return float(decade * next(digit for digit in (1, 2, 5, 10) if step <= digit * decade * (1 + 1e-9)))


def first_values(readings: Readings, model: Model) -> dict[str, float]:
    """Values read off the readings as the eye would, to two digits, for each parameter that is not fixed.

    What a family cannot read off these readings (a logarithm of a negative y, say) begins at one.
    """
    used = readings.used
    x, inverse = np.unique(readings.x[used], return_inverse=True)
    found: Mapping[str, float] = {}
    if len(x) > 1:
        y = np.bincount(inverse, readings.y[used]) / np.bincount(inverse)
        with np.errstate(all="ignore"):
            try:
                found = model.first_values(Look(x, y))
            except (ArithmeticError, np.linalg.LinAlgError):
                found = {}
    return {name: _two_digits(found.get(name, 1.0)) for name in model.free_names}


def _two_digits(value: float) -> float:
    return float(f"{value:.1e}") if np.isfinite(value) else 1.0
