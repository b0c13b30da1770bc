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
    share, first = _best_split(standardised)
    if share < APART:
        return None
    p = chance_of_at_least(np.array([_best_split(drawn)[0] for drawn in simulated / room]), share)
    order = np.argsort(standardised, kind="stable")
    below, above = order[:first], order[first:]
    members = np.sort(below if len(below) <= len(above) else above)
    return TwoGroups(p, members, float(residuals[below].mean()), float(residuals[above].mean()))


def _best_split(values: Array) -> tuple[float, int]:
    """The largest share between two groups, and how many are in the lower one."""
    ordered = np.sort(values)
    ordered = ordered - ordered.mean()
    total = float(ordered @ ordered)
    n = len(ordered)
    least = max(2, int(np.ceil(LEAST_SHARE * n)))
    if not total > 0 or 2 * least > n:
        return 0.0, 0
    below = np.arange(least, n - least + 1)
    sums = np.cumsum(ordered)[below - 1]
    between = sums**2 * n / (below * (n - below))
    best = int(np.argmax(between))
    return float(between[best]) / total, int(below[best])
