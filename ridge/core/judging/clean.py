"""Residuals as they would be if the model held: what every check of residuals is measured against.

Residuals of a fit are not independent: each parameter ties them to one another, the more so the fewer readings there are.
So they are simulated: normal scatter, less the part that the parameters take up (exact for linear models, by the tangent
plane for others), the same draws every time. Atkinson, "Plots, Transformations and Regression", 1985, section 4.2;
Davison and Hinkley, "Bootstrap Methods and their Application", 1997, section 4.2, for the chance that follows.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from ridge.core.readings import Array

MOST = 400
"""Readings up to which residuals are simulated; with more, the parameters hardly tie them."""


class Scatter:
    """What is left of scatter in a fit: everything along the derivatives by its parameters is taken up by them.

    ``directions``: root weight times the derivatives, (n, p).
    """

    def __init__(self, directions: Array) -> None:
        sizes = np.max(np.abs(directions), axis=0)
        basis, triangle = np.linalg.qr(directions / np.where(sizes > 0, sizes, 1.0))
        self._basis = basis[:, np.abs(np.diag(triangle)) > 1e-10 * np.abs(triangle).max(initial=1e-300)]
        self.leverage = np.einsum("np,np->n", self._basis, self._basis)

    def left_of(self, values: Array) -> Array:
        """The residuals of a fit to values times root weight, (…, n)."""
        return np.asarray(values - (values @ self._basis) @ self._basis.T)

    def simulated(self) -> Array:
        """Residuals as they would be if the model held, (draws, n): 999 draws up to 100 readings, 399 beyond, so that a chance
        comes in steps of a thousandth at best."""
        n = len(self.leverage)
        return self.left_of(_scatter(n, 999 if n <= 100 else 399))


@lru_cache(maxsize=16)
def _scatter(n: int, draws: int) -> Array:
    drawn = np.random.default_rng(20).standard_normal((draws, n))
    drawn.setflags(write=False)
    return drawn


def chance_of_at_least(drawn: Array, found: float) -> float:
    """Chance of a figure at least as large as the one found, from those of the draws."""
    return float((1 + np.count_nonzero(drawn >= found)) / (1 + len(drawn)))


def two_sided(drawn: Array, found: float) -> float:
    """Chance of a figure at least as far out on its side, on either side."""
    return min(1.0, 2 * min(chance_of_at_least(drawn, found), chance_of_at_least(-drawn, -found)))
