"""Trial values for the nonlinear parameters of any formula, on scales taken from the readings and the formula's units."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from ridge.core.formula.dimensions import unit_powers
from ridge.core.formula.functions import IN_DEGREES
from ridge.core.formula.tree import Call, Node, names_in, walk
from ridge.core.readings import Array

Spread = Callable[[Array], Array]
"""From numbers in [0, 1) to values of one parameter."""

_WAVES = {"sin", "cos", "tan", *IN_DEGREES.values()}


def low_discrepancy(count: int, dimensions: int) -> Array:
    """Points that fill the unit cube evenly, (count, dimensions): the additive recurrence on the generalised golden ratio.

    Always the same points. Roberts, "The unreasonable effectiveness of quasirandom sequences", 2018.
    """
    ratio = 2.0
    for _ in range(40):
        ratio = (1 + ratio) ** (1 / (dimensions + 1))
    step = ratio ** -np.arange(1.0, dimensions + 1)
    return np.asarray((0.5 + np.arange(1, count + 1)[:, None] * step) % 1.0)


def _signed(v: Array, size: Callable[[Array], Array], negative: float) -> Array:
    """A share of the numbers for negative values, the rest for positive ones."""
    below = v < negative
    return np.where(below, -size(v / negative), size((v - negative) / (1 - negative)))


def _between(low: float, high: float) -> Callable[[Array], Array]:
    low, high = float(np.clip(low, 1e-300, 1e300)), float(np.clip(high, 1e-300, 1e300))
    return lambda v: np.exp(np.log(low) + v * (np.log(high) - np.log(low)))


def spreads(tree: Node, variable: str, names: Sequence[str], x: Array, y: Array) -> list[Spread]:
    """For each name, where its values may be looked for."""
    units = unit_powers(tree, variable, names_in(tree))
    in_waves = {
        name for part in walk(tree) if isinstance(part, Call) and part.function in _WAVES for name in names_in(part)
    }
    degrees = any(isinstance(part, Call) and part.function in IN_DEGREES.values() for part in walk(tree))
    low, high = float(x.min()), float(x.max())
    span = (high - low) or abs(high) or 1.0
    reach = max(abs(low), abs(high)) or 1.0
    height = float(np.sqrt(np.mean((y / (np.abs(y).max() or 1.0)) ** 2)) * (np.abs(y).max() or 1.0)) or 1.0
    with np.errstate(all="ignore"):
        return [
            _spread(units[name], name in in_waves, degrees, low, high, span, reach, height, len(x)) for name in names
        ]


def _spread(
    unit: tuple[float, float],
    wave: bool,
    degrees: bool,
    low: float,
    high: float,
    span: float,
    reach: float,
    height: float,
    n: int,
) -> Spread:
    in_x, in_y = unit
    turn = 360.0 if degrees else 2 * np.pi
    if wave and in_y == 0:
        cycles = max(10.0, n / 2)
        if in_x == -1:  # a frequency, counted in radians or in turns
            return lambda v: np.where(v < 0.75, v / 0.75 * cycles * turn / span, (v - 0.75) / 0.25 * cycles / span)
        if in_x == 1:  # a period
            return lambda v: span / np.maximum((v % 0.5) * 2 * cycles, 0.05) / np.where(v < 0.5, 1.0, turn)
        if in_x == 0:
            return lambda v: (v - 0.5) * turn
    if in_y:
        size = height**in_y
        scale = _between(size * reach**in_x * 1e-4, size * span**in_x * 1e4)
        return lambda v: _signed(v, scale, 0.35)
    if in_x == 0:
        return lambda v: _signed(v, _between(0.02, 40.0), 0.4)
    if in_x == 1:
        wide = _between(span * 3e-3, max(span, reach) * 100)
        return lambda v: np.where(
            v < 0.45,
            low - 0.15 * span + v / 0.45 * 1.3 * span,
            _signed((v - 0.45) / 0.55, wide, 0.3),
        )
    if in_x < 0:
        return lambda v: _signed(v, _between(0.05 * min(reach**in_x, span**in_x), 100 * span**in_x), 0.35)
    return lambda v: _signed(v, _between(1e-3 * span**in_x, 100 * max(reach, span) ** in_x), 0.35)
