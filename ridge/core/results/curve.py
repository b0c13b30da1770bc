"""What a fitted curve can be asked."""

from __future__ import annotations

from typing import Protocol

import numpy.typing as npt

from ridge.core.readings import Array


class Curve(Protocol):
    """Arrays come back in the shape of x; ``rows`` with one more axis."""

    def value(self, x: npt.ArrayLike) -> Array:
        """The curve's y at x; NaN or infinite where it has none."""

    def slope(self, x: npt.ArrayLike) -> Array:
        """dy/dx at x."""

    def bend(self, x: npt.ArrayLike) -> Array:
        """d²y/dx² at x."""

    def rows(self, x: npt.ArrayLike, order: int = 0) -> Array:
        """How value (order 0), slope (1) or bend (2) move with independent directions of the parameters.

        For readings of variance one, the squared length of a row is the variance there.
        """

    def unit_variance(self, x: npt.ArrayLike) -> Array:
        """Variance of the value for a reading of weight one whose variance is one."""
