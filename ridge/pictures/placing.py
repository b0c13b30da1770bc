"""How a picture without marks lies under a plot: where its middle is, how large it is, and how far it is turned."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, hypot, isfinite, radians, sin

import numpy as np
import numpy.typing as npt

from ridge.core.errors import OutsideSense
from ridge.core.readings import Array

Matrix = tuple[float, float, float, float, float, float]
"""(a, b, c, d, e, f): a pixel (px, py) from the upper left corner lies at (a·px + c·py + e, b·px + d·py + f) along the axes, the order of
the matrices of SVG 2 (W3C, 8.5)."""


@dataclass(frozen=True)
class Placing:
    """``x``, ``y`` of the middle, ``width`` and ``height`` along the axes before it is turned by ``turn`` degrees against the clock."""

    x: float
    y: float
    width: float
    height: float
    turn: float = 0.0

    def __post_init__(self) -> None:
        if not all(map(isfinite, (self.x, self.y, self.width, self.height, self.turn))):
            raise OutsideSense("place", "is given in finite numbers.")
        if not (self.width > 0 and self.height > 0):
            raise OutsideSense("place", "has a width and a height above zero.")

    def matrix(self, width: int, height: int) -> Matrix:
        """From the pixels of a picture of this size to places along the axes.

        >>> from ridge.pictures import Placing
        >>> Placing(5, 2, 10, 4).matrix(100, 40)
        (0.1, 0.0, 0.0, -0.1, 0.0, 4.0)
        """
        across, up = self.width / width, self.height / height
        c, s = cos(radians(self.turn)), sin(radians(self.turn))
        a, b, c_, d = across * c, up * s, across * s, -up * c
        return (a, b, c_, d, self.x - a * width / 2 - c_ * height / 2, self.y - b * width / 2 - d * height / 2)


def places(matrix: Matrix, pixels: npt.ArrayLike) -> Array:
    """Where pixels lie along the axes, shape (n, 2)."""
    at = np.asarray(pixels, dtype=np.float64).reshape(-1, 2)
    a, b, c, d, e, f = matrix
    return np.column_stack([a * at[:, 0] + c * at[:, 1] + e, b * at[:, 0] + d * at[:, 1] + f])


def pixels_at(matrix: Matrix, even: npt.ArrayLike) -> Array:
    """Which pixels lie at places along the axes, shape (n, 2)."""
    at = np.asarray(even, dtype=np.float64).reshape(-1, 2)
    a, b, c, d, e, f = matrix
    # Row by row: x and y may be of very different sizes.
    scale_x, scale_y = hypot(a, c), hypot(b, d)
    turning = np.array([[a / scale_x, c / scale_x], [b / scale_y, d / scale_y]])
    return np.asarray(np.linalg.solve(turning, np.stack([(at[:, 0] - e) / scale_x, (at[:, 1] - f) / scale_y])).T)


def steps(matrix: Matrix) -> tuple[float, float]:
    """By how much x and y change along one pixel at most."""
    a, b, c, d, _, _ = matrix
    return hypot(a, c), hypot(b, d)
