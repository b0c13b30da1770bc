"""The order of the signs of residuals: how often they change from one reading to the next, and to the next but one."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from ridge.core.judging.clean import chance_of_at_least, two_sided
from ridge.core.readings import Array, Mask


@dataclass(frozen=True)
class Order:
    """The chance of so few or so many changes between neighbours (two-sided); ``chance_of_pairs``: of so many changes
    between next neighbours but one, as in ++−−++−−. None with fewer than eight readings."""

    chance: float | None
    chance_of_pairs: float | None


FEWEST = 8


def find_order(residuals: Array, simulated: Array | None) -> Order:
    """From residuals in order of x. ``simulated``: those of the same readings if the model held, (draws, n); left out, the
    chances are those of signs in random order, normally distributed (Wald and Wolfowitz, Ann. Math. Stat. 11, 1940)."""
    signs = residuals[residuals != 0] > 0
    n = len(signs)
    changes, in_pairs = _changes(signs, 1), _changes(signs, 2)
    if n < FEWEST or min(signs.sum(), n - signs.sum()) < 1:
        return Order(None, None)
    if simulated is not None and simulated.shape[1] == n:
        drawn = simulated > 0
        return Order(
            two_sided(_changes(drawn, 1), float(changes)),
            chance_of_at_least(_changes(drawn, 2), float(in_pairs)),
        )
    above = float(signs.sum())
    share = 2 * above * (n - above) / (n * (n - 1))  # of pairs that differ
    mean = 1 + (n - 1) * share
    spread = np.sqrt((mean - 1) * (mean - 2) / (n - 1))
    # Half a change less, since changes come in whole numbers.
    off = max(abs(float(changes) + 1 - mean) - 0.5, 0.0) / spread
    pairs_off = (float(in_pairs) - (n - 2) * share - 0.5) / spread
    return Order(float(2 * ndtr(-off)), float(ndtr(-pairs_off)))


def count_changes(residuals: Array) -> int:
    """How often the sign changes from one to the next, zeros passed over."""
    return int(_changes(residuals[residuals != 0] > 0, 1))


def _changes(signs: Mask, apart: int) -> Array:
    """How many signs differ from the one so many places on; along the last axis."""
    return np.asarray(np.count_nonzero(signs[..., apart:] != signs[..., :-apart], axis=-1))
