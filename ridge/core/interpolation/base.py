"""What every interpolation can do."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np
import numpy.typing as npt

from ridge.core.errors import NoSolution, OutsideSense
from ridge.core.predicting.beyond import distance_beyond, in_ranges
from ridge.core.predicting.crossings import find_crossings
from ridge.core.readings import Array, Readings


@dataclass(frozen=True)
class Piece:
    """One polynomial piece from ``low`` to ``high``: Σ coefficients[k]·(x − low)ᵏ."""

    low: float
    high: float
    coefficients: tuple[float, ...]


@dataclass(frozen=True)
class Between:
    """Interpolated values at ``x``, every field in the shape of x. ``beyond`` and ``beyond_ranges`` as in ``Prediction``."""

    x: Array
    value: Array
    beyond: Array
    beyond_ranges: Array


@dataclass(frozen=True)
class Crossing:
    """An x at which the curve takes the wanted y."""

    value: float
    beyond: float
    beyond_ranges: float


class Shape(Protocol):
    """The curve itself. Arrays come back in the shape of x."""

    def value(self, x: Array) -> Array: ...

    def slope(self, x: Array) -> Array: ...

    def bend(self, x: Array) -> Array: ...

    @property
    def pieces(self) -> list[Piece]: ...


@dataclass(frozen=True)
class Interpolation:
    """A curve through the readings in use.

    ``kind`` and ``ends`` as asked for; ``x`` and ``y``: the nodes, ascending, repeats averaged.
    """

    readings: Readings
    kind: str
    ends: str
    degree: int
    x: Array
    y: Array
    shape: Shape
    averaged: bool

    def __repr__(self) -> str:
        return f"Interpolation({self.kind!r}, {len(self.x)} nodes)"

    def evaluate(self, x: npt.ArrayLike) -> Array:
        """Values of the curve at x; beyond the ends its outermost piece goes on."""
        return self.shape.value(np.asarray(x, dtype=np.float64))

    def slope(self, x: npt.ArrayLike) -> Array:
        """dy/dx at x."""
        return self.shape.slope(np.asarray(x, dtype=np.float64))

    def bend(self, x: npt.ArrayLike) -> Array:
        """d²y/dx² at x."""
        return self.shape.bend(np.asarray(x, dtype=np.float64))

    def predict(self, x: npt.ArrayLike) -> Between:
        """Values at x with how far beyond the readings they lie. Raises OutsideSense for an x that is not finite."""
        x = np.asarray(x, dtype=np.float64)
        if not np.all(np.isfinite(x)):
            raise OutsideSense("x", "must be finite numbers.")
        beyond = distance_beyond(self.readings, x)
        return Between(x, self.evaluate(x), beyond, in_ranges(self.readings, beyond))

    def solve(self, y: float, interval: tuple[float, float] | None = None) -> list[Crossing]:
        """Every x at which the curve takes the value y, between the readings unless an interval is given.

        Raises NoSolution where it never does, OutsideSense for a y that is not finite.
        """
        if not np.isfinite(y):
            raise OutsideSense("y", "must be a finite number.")
        low, high = interval or self.readings.measured_range
        inner = [np.linspace(a, b, 25) for a, b in zip(self.x[:-1], self.x[1:], strict=True)]
        grid = np.unique(np.concatenate([np.linspace(low, high, 2001), *inner]))
        found = find_crossings(lambda at: self.evaluate(at) - y, grid[(grid >= low) & (grid <= high)])
        if not found:
            raise NoSolution("The curve does not take that value there. Look at a wider stretch, or check the value.")
        beyond = [float(distance_beyond(self.readings, x)) for x in found]
        return [Crossing(x, b, float(in_ranges(self.readings, b))) for x, b in zip(found, beyond, strict=True)]

    def area(self, low: float, high: float) -> float:
        """Area under the curve from ``low`` to ``high``."""
        inside = self.x[(self.x > min(low, high)) & (self.x < max(low, high))]
        edges = np.concatenate([[low], np.sort(inside)[:: 1 if high >= low else -1], [high]])
        nodes, weights = np.polynomial.legendre.leggauss(
            max(4, (len(self.x) + 2) // 2 if self.kind == "polynomial" else 4)
        )
        half, middle = np.diff(edges) / 2, (edges[:-1] + edges[1:]) / 2
        return float(np.sum(half[:, None] * weights * self.evaluate(middle[:, None] + half[:, None] * nodes)))

    @property
    def pieces(self) -> list[Piece]:
        """The curve's equations, piece by piece; one for the whole polynomial."""
        return self.shape.pieces
