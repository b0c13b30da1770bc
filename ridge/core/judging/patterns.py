"""What the residuals of a fit show: signs, runs, bend, and readings that stand out."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import comb
from typing import TYPE_CHECKING

import numpy as np
from scipy.special import fdtrc, ndtr, stdtr

from ridge.core.fitting.linear import DependentColumn, solve

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class Pattern:
    """Signs and runs of the residuals in order of x, and the evidence for a bend.

    ``runs_p``: probability of so few runs if the signs were shuffled (one-sided); None with too few of a sign.
    ``bend_p``: p of the F-test for an added x² term; None where it cannot be tried. ``bend``: +1 where the
    readings curve upwards (residuals above at both ends), −1 downwards.
    """

    above: int
    below: int
    runs: int
    runs_p: float | None
    bend_p: float | None
    bend: int

    @property
    def visible(self) -> bool:
        """Whether an order is visible, at one chance in a hundred for either test."""
        return any(p is not None and p < 0.01 for p in (self.runs_p, self.bend_p))


@lru_cache(maxsize=256)
def few_runs_probability(above: int, below: int, runs: int) -> float:
    """P(number of runs ≤ ``runs``) for ``above`` and ``below`` signs in random order.

    Exact (Wald and Wolfowitz, Ann. Math. Stat. 11, 1940) up to 200 signs, by the normal approximation beyond.
    """
    n = above + below
    if n > 200:
        mean = 1 + 2 * above * below / n
        variance = (mean - 1) * (mean - 2) / (n - 1)
        return float(ndtr((runs + 0.5 - mean) / np.sqrt(variance)))
    ways = 0
    for r in range(2, runs + 1):
        k = r // 2
        if r % 2 == 0:
            ways += 2 * comb(above - 1, k - 1) * comb(below - 1, k - 1)
        else:
            ways += comb(above - 1, k) * comb(below - 1, k - 1) + comb(above - 1, k - 1) * comb(below - 1, k)
    return ways / comb(n, above)


def find_pattern(fit: Fit) -> Pattern:
    """The pattern of the residuals of the readings in use."""
    used = fit.readings.used
    order = np.argsort(fit.readings.x[used], kind="stable")
    residuals = fit.residuals[used][order]
    signs = np.sign(residuals[residuals != 0])
    above, below = int((signs > 0).sum()), int((signs < 0).sum())
    runs = int((np.diff(signs) != 0).sum()) + 1 if len(signs) else 0
    testable = min(above, below) >= 2 and len(signs) >= 8 and not fit.statistics.exact
    bend_p, bend = _bend(fit)
    return Pattern(above, below, runs, few_runs_probability(above, below, runs) if testable else None, bend_p, bend)


def _bend(fit: Fit) -> tuple[float | None, int]:
    """F-test for an x² term added to the model's own terms."""
    statistics = fit.statistics
    degrees = statistics.degrees_of_freedom - 1
    if degrees < 3 or statistics.exact:
        return None, 0
    used = fit.readings.used
    x = fit.readings.x[used].astype(np.longdouble)
    x = x - x.mean()
    x /= np.abs(x).max()
    root = np.sqrt(fit.readings.used_weights.astype(np.longdouble))
    columns = (
        [np.ones_like(x), x, x * x] if fit.model.has_constant else [fit.readings.x[used].astype(np.longdouble), x * x]
    )
    target = fit.residuals[used].astype(np.longdouble)
    size = np.abs(target).max()
    try:
        solution = solve(np.stack(columns).T, target / size, root)
    except DependentColumn:
        return None, 0
    gained = solution.projections[-1] ** 2
    rest = np.dot(solution.weighted_residuals, solution.weighted_residuals)
    if not rest > 0:
        return 0.0, int(np.sign(solution.projections[-1]))
    return float(fdtrc(1, degrees, float(gained / rest * degrees))), int(np.sign(solution.projections[-1]))


def readings_far_off(fit: Fit, chance: float = 0.05) -> list[int]:
    """Rows (0-based) whose deleted residual is too large for chance, allowing for the number of readings.

    Bonferroni's bound on the externally studentised residual (Cook and Weisberg 1982, section 2.2.2).
    """
    n, degrees = fit.statistics.n, fit.statistics.degrees_of_freedom
    if degrees < 3 or fit.statistics.exact or not fit.statistics.residual_standard_deviation:
        return []
    standardised = fit.standardised_residuals
    if fit.readings.absolute_errors:
        p = 2 * ndtr(-np.abs(standardised))
    else:
        with np.errstate(invalid="ignore", divide="ignore"):
            room = np.maximum(degrees - standardised**2, 1e-300)
            deleted = np.abs(standardised) * np.sqrt((degrees - 1) / room)
        p = 2 * stdtr(degrees - 1, -deleted)
    return [int(row) for row in np.flatnonzero(np.nan_to_num(n * p, nan=1.0) < chance)]


def readings_that_decide(fit: Fit) -> list[int]:
    """Rows (0-based) whose removal would move the fit greatly: Cook's distance above one (Cook and Weisberg 1982)."""
    if fit.statistics.degrees_of_freedom < 3 or fit.statistics.exact:
        return []
    return [int(row) for row in np.flatnonzero(np.nan_to_num(fit.cooks_distance) > 1)]
