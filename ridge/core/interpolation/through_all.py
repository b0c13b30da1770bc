"""One polynomial through all readings, in barycentric form."""

from __future__ import annotations

import numpy as np

from ridge.core.fitting.exact import solve_exactly
from ridge.core.interpolation.base import Piece
from ridge.core.readings import Array

WRITTEN_OUT = 20
"""Nodes up to which the polynomial is also written in powers of x."""


class ThroughAll:
    """The second barycentric formula (Berrut and Trefethen, SIAM Review 46, 2004), in extended precision.

    It does not form powers of x, so that even many readings on a line stay on it.
    """

    def __init__(self, x: Array, y: Array) -> None:
        self._x, self._y = x, y
        self._nodes, self._values = x.astype(np.longdouble), y.astype(np.longdouble)
        gaps = self._nodes[:, None] - self._nodes[None, :]
        np.fill_diagonal(gaps, 1)
        # Products of many gaps leave the range of numbers; their logarithms do not.
        sizes = -np.sum(np.log(np.abs(gaps)), axis=1)
        self._weights = np.prod(np.sign(gaps), axis=1) * np.exp(sizes - sizes.max())

    def _shares(self, x: Array) -> tuple[np.ndarray, np.ndarray]:
        """weight/(x − node) for each place and node, shape (places, nodes); and which node a place hits, −1 for none."""
        gaps = x.astype(np.longdouble).reshape(-1, 1) - self._nodes
        hit = np.where((gaps == 0).any(axis=1), np.argmin(np.abs(gaps), axis=1), -1)
        return self._weights / np.where(gaps == 0, np.longdouble(1), gaps), hit

    def value(self, x: Array) -> Array:
        shares, hit = self._shares(x)
        found = (shares @ self._values) / np.sum(shares, axis=1)
        found = np.where(hit >= 0, self._values[hit], found)
        return np.asarray(found.astype(np.float64)).reshape(x.shape)

    def slope(self, x: Array) -> Array:
        return self._derivative(x, 1)

    def bend(self, x: Array) -> Array:
        return self._derivative(x, 2)

    def _derivative(self, x: Array, order: int) -> Array:
        """Schneider and Werner, Math. Comp. 47, 1986: derivatives from divided differences in the same form."""
        flat = x.reshape(-1).astype(np.longdouble)
        shares, hit = self._shares(x)
        gaps = flat[:, None] - self._nodes
        safe = np.where(gaps == 0, np.longdouble(1), gaps)
        total = np.sum(shares, axis=1)
        value = (shares @ self._values) / total
        once = (value[:, None] - self._values) / safe
        slope = np.sum(shares * once, axis=1) / total
        result = slope
        if order == 2:
            twice = (slope[:, None] - once) / safe
            result = 2 * np.sum(shares * twice, axis=1) / total
        for place in np.flatnonzero(hit >= 0):
            matrix = self._at_node(int(hit[place]))
            result[place] = matrix[order - 1]
        return np.asarray(result.astype(np.float64)).reshape(x.shape)

    def _at_node(self, i: int) -> tuple[np.longdouble, np.longdouble]:
        """First and second derivative at a node."""
        others = np.arange(len(self._nodes)) != i
        gaps = self._nodes[i] - self._nodes[others]
        shares = self._weights[others] / self._weights[i]
        once = (self._values[i] - self._values[others]) / gaps
        slope = -np.sum(shares * once)
        bend = -2 * np.sum(shares * (slope - once) / gaps)
        return np.longdouble(slope), np.longdouble(bend)

    @property
    def pieces(self) -> list[Piece]:
        """The polynomial in powers of (x − first x), from exact fractions; none beyond 20 nodes, where its digits mislead."""
        if len(self._x) > WRITTEN_OUT:
            return []
        shifted = (self._x.astype(np.longdouble) - self._nodes[0]).astype(np.longdouble)
        found = solve_exactly(shifted, tuple(range(len(self._x))), self._values, np.ones(len(self._x)))
        if found is None:
            return []
        return [Piece(float(self._x[0]), float(self._x[-1]), tuple(found.coefficients.tolist()))]
