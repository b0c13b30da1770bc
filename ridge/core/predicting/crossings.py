"""Where a curve crosses zero: found on a fine grid, then bracketed to the last digit."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from scipy.optimize import brentq

from ridge.core.readings import Array, Mask

GRID = 2001
MOST_CHANGES = 120
"""Changes of sign that are followed, those nearest to the middle of the grid: of a curve that is mere rounding there is one at every
step, and no end."""
MOST_TOUCHES = 200
MOST_EDGES = 20
EDGE_PLACES, EDGE_STEPS = 130, 13
"""Places tried at once between the last value and none, and how often: seven halvings each, ninety in all."""


def find_crossings(function: Callable[[Array], Array], grid: Array, level: float = 0.0) -> list[float]:
    """Every zero between neighbours of the ascending ``grid``, also where the function only touches zero.

    Jumps through infinity are no zeros. Values that are not finite are passed over. A function that varies by no more
    than ``level`` is level, and has none.
    """
    with np.errstate(all="ignore"):
        values = np.asarray(function(grid), dtype=np.float64)
    finite = np.isfinite(values)
    if not finite.any() or float(np.ptp(values[finite])) <= level:
        return []
    found: list[float] = [float(x) for x in grid[values == 0]]
    both = finite[:-1] & finite[1:]
    size = float(np.max(np.abs(values[finite]), initial=0.0)) or 1.0

    def at(x: float) -> float:
        with np.errstate(all="ignore"):
            return float(function(np.array([x]))[0])

    changes = np.flatnonzero(both & (np.sign(values[:-1]) * np.sign(values[1:]) < 0))
    for i in np.sort(changes[np.argsort(np.abs(changes - len(grid) // 2), kind="stable")[:MOST_CHANGES]]):
        root = bracketed(at, float(grid[i]), float(grid[i + 1]))
        if abs(at(root)) <= min(abs(values[i]), abs(values[i + 1])) + 1e-9 * size:
            found.append(root)
    found += _beside_zeros(at, grid, values)
    found += _beside_edges(function, at, grid, values, finite)
    found += _touching(at, grid, values, size)
    return sorted(set(found))


def _beside_zeros(at: Callable[[float], float], grid: Array, values: Array) -> list[float]:
    """Zeros between a place of the grid that is one itself and its neighbours: the sign turns round on the way."""
    found = []
    for i in np.flatnonzero(values == 0)[:MOST_TOUCHES]:
        for j in (i - 1, i + 1):
            if not 0 <= j < len(grid) or not np.isfinite(values[j]) or values[j] == 0:
                continue
            near = float(grid[i] + 1e-6 * (grid[j] - grid[i]))
            if np.sign(at(near)) * np.sign(values[j]) < 0:
                found.append(bracketed(at, *sorted((near, float(grid[j])))))
    return found


def _beside_edges(
    function: Callable[[Array], Array], at: Callable[[float], float], grid: Array, values: Array, finite: Mask
) -> list[float]:
    """Zeros between the edge of where the function has a value and the first place of the grid within."""
    found = []
    for i in np.flatnonzero(finite[:-1] != finite[1:])[:MOST_EDGES]:
        inner, outer = (float(grid[i]), float(grid[i + 1])) if finite[i] else (float(grid[i + 1]), float(grid[i]))
        first = float(values[i] if finite[i] else values[i + 1])
        place, inner = inner, last_finite(function, inner, outer)
        last = at(inner)
        if last == 0 and first != 0:
            found.append(inner)
        elif last * first < 0:
            root = bracketed(at, *sorted((inner, place)))
            # Where it runs off to infinity there is a jump, not a zero.
            if abs(at(root)) <= 1e-6 * abs(first):
                found.append(root)
    return found


def last_finite(function: Callable[[Array], Array], inner: float, outer: float) -> float:
    """How far from ``inner``, where the function has a value, it has one all the way to ``outer``, where it has none: to the last digit,
    many places at a time."""
    for _ in range(EDGE_STEPS):
        places = np.linspace(inner, outer, EDGE_PLACES)
        with np.errstate(all="ignore"):
            without = np.flatnonzero(~np.isfinite(function(places[1:-1])))
        last = int(without[0]) if len(without) else EDGE_PLACES - 2
        inner, outer = float(places[last]), float(places[last + 1])
    return inner


def bracketed(at: Callable[[float], float], low: float, high: float) -> float:
    """The zero between two places of unlike sign, to the last digit; at a pole or a gap, a place beside it."""
    try:
        result = brentq(
            at, low, high, xtol=1e-300, rtol=4 * np.finfo(np.float64).eps, maxiter=200, full_output=True, disp=False
        )
    except ValueError:  # somewhere between the two there is no value
        return _halved(at, low, high)
    return float(result[0])


def _halved(at: Callable[[float], float], low: float, high: float) -> float:
    """The same by halving, which needs signs only; a place without a value counts for its upper neighbour."""
    sign = np.sign(at(low))
    for _ in range(200):
        middle = low / 2 + high / 2
        if middle in (low, high):
            break
        low, high = (middle, high) if np.sign(at(middle)) == sign else (low, middle)
    return low


def _touching(at: Callable[[float], float], grid: Array, values: Array, size: float) -> list[float]:
    """Places where the function has a bend right at zero, without passing through; and pairs of zeros between two places."""
    before, here, after = np.abs(values[:-2]), np.abs(values[1:-1]), np.abs(values[2:])
    with np.errstate(all="ignore"):
        same = (np.sign(values[:-2]) == np.sign(values[1:-1])) & (np.sign(values[1:-1]) == np.sign(values[2:]))
        # The parabola through three neighbours comes close to zero only where the function may touch it.
        lowest = here - (after - before) ** 2 / (8 * (before - 2 * here + after))
        near = lowest <= 0.25 * np.maximum(before, after)
    inner = np.flatnonzero(same & (here <= before) & (here <= after) & near)[:MOST_TOUCHES]
    found = []
    for i in inner:
        sign = float(np.sign(values[i + 1]))
        low, high = float(grid[i]), float(grid[i + 2])
        for _ in range(200):  # golden section down to where the function comes nearest to zero, or through it
            third = (high - low) * 0.381966
            first, second = low + third, high - third
            if sign * at(first) < sign * at(second):
                high = second
            else:
                low = first
            if high - low <= 4e-16 * max(abs(low), abs(high)) or sign * at((low + high) / 2) < 0:
                break
        middle = (low + high) / 2
        beyond = sign * at(middle)
        if abs(beyond) <= 1e-13 * size:
            found.append(middle)
        elif beyond < 0:
            found += [bracketed(at, float(grid[i]), middle), bracketed(at, middle, float(grid[i + 2]))]
    return found


def search_grid(low: float, high: float, cycles: float = 0.0) -> Array:
    """Places to look at, fine enough for so many cycles between the ends."""
    count = int(min(max(GRID, 64 * cycles), 200_001))
    return np.linspace(low, high, count)
