"""Piecewise polynomials: straight pieces, splines and monotone cubics, all as SciPy's PPoly."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from scipy.interpolate import CubicSpline, PchipInterpolator, PPoly, make_interp_spline

from ridge.core.interpolation.base import Piece
from ridge.core.readings import Array


class Piecewise:
    """A PPoly whose outermost pieces go on beyond the ends; a periodic one repeats itself."""

    def __init__(self, polynomial: PPoly) -> None:
        self._polynomial = polynomial
        self._slope, self._bend = polynomial.derivative(1), polynomial.derivative(2)

    def value(self, x: Array) -> Array:
        return np.asarray(self._polynomial(x))

    def slope(self, x: Array) -> Array:
        return np.asarray(self._slope(x))

    def bend(self, x: Array) -> Array:
        return np.asarray(self._bend(x))

    @property
    def pieces(self) -> list[Piece]:
        edges, coefficients = self._polynomial.x, self._polynomial.c
        return [
            Piece(float(low), float(high), tuple(coefficients[::-1, i].tolist()))
            for i, (low, high) in enumerate(pairwise(edges))
            if high > low
        ]


def straight(x: Array, y: Array) -> Piecewise:
    """Straight pieces between neighbours; beyond the ends, through the two nearest readings."""
    return Piecewise(PPoly(np.stack([np.diff(y) / np.diff(x), y[:-1]]), x))


def cubic_spline(x: Array, y: Array, ends: str, end_slopes: tuple[float, float]) -> Piecewise:
    """Twice continuously differentiable cubics (de Boor, "A Practical Guide to Splines", chapter IV)."""
    condition: object = ((1, end_slopes[0]), (1, end_slopes[1])) if ends == "clamped" else ends
    made = CubicSpline(x, y, bc_type=condition)
    return Piecewise(PPoly(made.c, made.x, extrapolate="periodic" if ends == "periodic" else True))


def monotone(x: Array, y: Array) -> Piecewise:
    """Cubics that never turn between readings (Fritsch and Butland, SIAM J. Sci. Stat. Comput. 5, 1984)."""
    made = PchipInterpolator(x, y, extrapolate=True)
    return Piecewise(PPoly(made.c, made.x, extrapolate=True))


def spline(x: Array, y: Array, degree: int) -> Piecewise:
    """A spline of degree 1 to 5 with not-a-knot ends."""
    made = make_interp_spline(x, y, k=degree)
    polynomial = PPoly.from_spline(made)
    inside = np.flatnonzero(np.diff(polynomial.x) > 0)
    kept = np.append(polynomial.x[inside], polynomial.x[inside[-1] + 1])
    return Piecewise(PPoly(polynomial.c[:, inside], kept, extrapolate=True))
