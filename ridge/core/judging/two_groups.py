"""Residuals that fall into two groups, as where two samples or two instruments are mixed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ridge.core.judging.clean import MOST, chance_of_at_least
from ridge.core.readings import Array

FEWEST = 20
"""Readings from which on groups are looked for: of twenty, two groups six standard deviations apart are found in three studies of four."""
LEAST_SHARE = 0.2
"""Share of the readings that the smaller group has at least: fewer are outliers."""
APART = 0.78
"""Share of the sum of squares between the groups from which on there are two: normal residuals have 0.64 (2/π), evenly
distributed ones 0.75."""


@dataclass(frozen=True)
class TwoGroups:
    """``p``: chance of groups so far apart; ``members``: places of the smaller group; ``low`` and ``high``: their means."""

    p: float
    members: npt.NDArray[np.intp]
    low: float
    high: float


def find_two_groups(residuals: Array, leverage: Array, simulated: Array | None) -> TwoGroups | None:
    """Split the standardised residuals in two so that as much of their sum of squares as possible lies between the groups.

    The share is compared with ``simulated`` residuals of the same readings if the model held, (draws, n); Hartigan, "Asymptotic
    Distributions for Clustering Criteria", Ann. Stat. 6, 1978, gives 2/π of normal residuals. None where there are no two groups,
    fewer than twenty readings, or too many to be simulated.
    """
    n = len(residuals)
    if not FEWEST <= n <= MOST or simulated is None:
        return None
    room = np.sqrt(np.where(leverage < 1 - 1e-9, 1 - leverage, np.inf))
    standardised = residuals / room
    shares, firsts = _best_splits(standardised[None, :])
    share, first = float(shares[0]), int(firsts[0])
    if share < APART:
        return None
    p = chance_of_at_least(_best_splits(simulated / room)[0], share)
    order = np.argsort(standardised, kind="stable")
    below, above = order[:first], order[first:]
    members = np.sort(below if len(below) <= len(above) else above)
    return TwoGroups(p, members, float(residuals[below].mean()), float(residuals[above].mean()))


def _best_splits(values: Array) -> tuple[Array, npt.NDArray[np.intp]]:
    """For each row of values, (k, n), return the largest share between two groups, and how many are in the lower one."""
    ordered = np.sort(values, axis=1)
    ordered = ordered - ordered.mean(axis=1, keepdims=True)
    total = np.einsum("kn,kn->k", ordered, ordered)
    n = ordered.shape[1]
    least = max(2, int(np.ceil(LEAST_SHARE * n)))
    if 2 * least > n:
        return np.zeros(len(values)), np.zeros(len(values), dtype=np.intp)
    below = np.arange(least, n - least + 1)
    sums = np.cumsum(ordered, axis=1)[:, below - 1]
    between = sums**2 * n / (below * (n - below))
    best = np.argmax(between, axis=1)
    with np.errstate(divide="ignore", invalid="ignore"):
        shares = between[np.arange(len(values)), best] / total
    return np.where(total > 0, shares, 0.0), below[best]
