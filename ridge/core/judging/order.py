"""Neighbouring residuals: how alike they are."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from ridge.core.judging.clean import two_sided
from ridge.core.readings import Array

FEWEST = 8


@dataclass(frozen=True)
class Order:
    """``ratio``: von Neumann's ratio, about 2 in random order, smaller where neighbours are alike, larger where they alternate;
    ``chance``: of a ratio so far from what is expected (two-sided)."""

    ratio: float
    chance: float


def find_order(residuals: Array, simulated: Array | None) -> Order | None:
    """From residuals in order of x; None for fewer than eight and where all have one sign.

    von Neumann's ratio Σ(eᵢ₊₁ − eᵢ)²/Σeᵢ² (von Neumann, Ann. Math. Stat. 12, 1941; of residuals: Durbin and Watson, Biometrika
    37, 1950). ``simulated``: residuals of the same readings if the model held, (draws, n), so that the design and the
    parameters are allowed for. Left out, the chance is that of independent residuals, for which the ratio has mean 2 and
    variance 4/n in large samples.

    >>> import numpy as np
    >>> round(find_order(np.array([1.0, -1, 1, -1, 1, -1, 1, -1]), None).ratio, 2)
    3.5
    """
    n = len(residuals)
    if n < FEWEST or not residuals.min() < 0 < residuals.max():
        return None
    ratio = float(_ratio(residuals))
    if simulated is not None:
        return Order(ratio, two_sided(_ratio(simulated), ratio))
    return Order(ratio, float(2 * ndtr(-abs(ratio - 2) / np.sqrt(4 / n))))


def _ratio(residuals: Array) -> Array:
    steps = np.diff(residuals, axis=-1)
    return np.asarray(np.einsum("...n,...n->...", steps, steps) / np.einsum("...n,...n->...", residuals, residuals))


def count_changes(residuals: Array) -> int:
    """How often the sign changes from one to the next, zeros passed over."""
    signs = residuals[residuals != 0] > 0
    return int(np.count_nonzero(signs[1:] != signs[:-1]))
