"""What the residuals of a fit show: signs, runs, bend, and readings that stand out."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import comb
from typing import TYPE_CHECKING

import numpy as np
from scipy.special import bdtr, fdtrc, ndtr, stdtr

from ridge.core.fitting.linear import DependentColumn, solve
from ridge.core.judging.significance import CHECK, SIGNIFICANT
from ridge.core.models.base import Extended
from ridge.core.readings import Array

if TYPE_CHECKING:
    from ridge.core.fitting.result import Fit


@dataclass(frozen=True)
class Pattern:
    """Signs and runs of the residuals in order of x, and the evidence for a bend.

    ``runs_p``: probability of so few runs if the signs were shuffled (one-sided); None with too few of a sign.
    ``bend_p``: p of the F-test for an added x² term; None where it cannot be tried. ``bend``: +1 where the
    readings curve upwards (residuals above at both ends), −1 downwards, 0 where another power was tested.
    ``spread_p``: p of the rank correlation of the residuals' size with the fitted value; ``spread``: +1 where they grow.
    ``signs_p``: p of the sign test.
    """

    above: int
    below: int
    runs: int
    runs_p: float | None
    bend_p: float | None
    bend: int
    spread_p: float | None = None
    spread: int = 0
    signs_p: float | None = None

    @property
    def visible(self) -> bool:
        """Whether runs or curvature are evidence of a pattern."""
        return any(p is not None and p < CHECK for p in (self.runs_p, self.bend_p))

    @property
    def spread_changes(self) -> bool:
        """Whether there is evidence that the scatter grows or shrinks with y."""
        return self.spread_p is not None and self.spread_p < CHECK


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
    spread_p, spread = _spread_trend(fit) if not fit.statistics.exact else (None, 0)
    return Pattern(
        above, below, runs, few_runs_probability(above, below, runs) if testable else None, bend_p, bend,
        spread_p, spread, signs_probability(above, below),
    )  # fmt: skip


def _bend(fit: Fit) -> tuple[float | None, int]:
    """F-test for one more power of x beside the model's own terms: x², or the first that they do not contain."""
    statistics = fit.statistics
    degrees = statistics.degrees_of_freedom - 1
    if degrees < 3 or statistics.exact or fit.log_line is not None:
        return None, 0
    used = fit.readings.used
    u = _unit_range(fit.readings.x[used])
    root = np.sqrt(fit.readings.used_weights.astype(np.longdouble))
    target = fit.residuals[used].astype(np.longdouble)
    own = _own_terms(fit)
    for power in (2, 3, 4):
        columns = np.stack([*own, u**power])
        try:
            solution = solve(columns, target / np.abs(target).max(), root)
        except DependentColumn as cause:
            if cause.index < len(own):
                return None, 0
            continue
        gained = solution.projections[-1] ** 2
        rest = np.dot(solution.weighted_residuals, solution.weighted_residuals)
        bend = int(np.sign(solution.projections[-1])) if power == 2 else 0
        if not rest > 0:
            return 0.0, bend
        return float(fdtrc(1, degrees, float(gained / rest * degrees))), bend
    return None, 0


def _unit_range(x: Array) -> Extended:
    """x about its mean, of size one."""
    u = x.astype(np.longdouble)
    u = u - u.mean()
    return np.asarray(u / (np.abs(u).max() or 1))


def _own_terms(fit: Fit) -> list[Extended]:
    """The directions in which the parameters move the curve, each of size one."""
    used = fit.readings.used
    x = fit.readings.x[used]
    if fit.model.linear_form is not None and fit.model.linear_form.transforms_nothing:
        powers = sorted(
            fit.model.linear_form.powers[fit.model.parameter_names.index(name)] for name in fit.model.free_names
        )
        centred = powers == list(range(len(powers)))
        u = _unit_range(x) if centred else x.astype(np.longdouble) / (np.abs(x).max() or 1)
        return [u**power for power in powers]
    at = [fit.model.parameter_names.index(name) for name in fit.model.free_names]
    gradient = fit.model.gradient(x.astype(np.longdouble), fit.values)[:, at]
    with np.errstate(all="ignore"):
        sizes = np.max(np.abs(gradient), axis=0)
        columns = (gradient / np.where(sizes > 0, sizes, 1)).T.astype(np.longdouble)
    return [column for column in columns if np.isfinite(column).all()]


def ranks(values: Array) -> Array:
    """Ranks from 1, ties sharing their mean rank."""
    _, place, counts = np.unique(values, return_inverse=True, return_counts=True)
    last = np.cumsum(counts)
    return np.asarray((last - (counts - 1) / 2)[place])


def _spread_trend(fit: Fit) -> tuple[float | None, int]:
    """Rank correlation of the size of the residuals with the fitted value, its p and its sign.

    Spearman's coefficient with the t approximation (Conover, "Practical Nonparametric Statistics", section 5.4); 8 readings
    at least.
    """
    sizes = np.abs(fit.standardised_residuals[fit.readings.used])
    fitted = fit.fitted[fit.readings.used]
    known = np.isfinite(sizes) & np.isfinite(fitted)
    if known.sum() < 8 or np.ptp(fitted[known]) == 0:
        return None, 0
    first, second = ranks(sizes[known]), ranks(fitted[known])
    first, second = first - first.mean(), second - second.mean()
    spread = np.sqrt((first @ first) * (second @ second))
    if not spread > 0:
        return None, 0
    r = float(np.clip(first @ second / spread, -1, 1))
    degrees = int(known.sum()) - 2
    if abs(r) == 1:
        return 0.0, int(np.sign(r))
    t = abs(r) * np.sqrt(degrees / (1 - r * r))
    return float(2 * stdtr(degrees, -t)), int(np.sign(r))


def signs_probability(above: int, below: int) -> float | None:
    """Chance of signs shared out at least so unevenly if each were a toss (two-sided sign test); None for none."""
    n, fewer = above + below, min(above, below)
    return min(1.0, float(2 * bdtr(fewer, n, 0.5))) if n else None


def readings_far_off(fit: Fit, chance: float = SIGNIFICANT) -> list[int]:
    """Rows (0-based) whose deleted residual is too large for chance, allowing for the number of readings.

    Bonferroni's bound on the externally studentised residual (Cook and Weisberg 1982, section 2.2.2).
    """
    n, degrees = fit.statistics.n, fit.statistics.degrees_of_freedom
    if degrees < 3 or fit.statistics.exact or not fit.statistics.residual_standard_deviation:
        return []
    sizes = np.abs(fit.deleted_residuals)
    p = 2 * (ndtr(-sizes) if fit.readings.absolute_errors else stdtr(degrees - 1, -sizes))
    return [int(row) for row in np.flatnonzero(np.nan_to_num(n * p, nan=1.0) < chance)]


def readings_that_decide(fit: Fit) -> list[int]:
    """Rows (0-based) whose removal would move the fit greatly: Cook's distance above one (Cook and Weisberg 1982)."""
    if fit.statistics.degrees_of_freedom < 3 or fit.statistics.exact:
        return []
    return [int(row) for row in np.flatnonzero(np.nan_to_num(fit.cooks_distance) > 1)]
