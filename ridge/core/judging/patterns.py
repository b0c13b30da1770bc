"""What the residuals of a fit show: the order of their signs, bend and spread."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt
from scipy.special import bdtr, fdtrc, stdtr

from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import REFIT, Effort
from ridge.core.fitting.linear import DependentColumn, solve
from ridge.core.judging.clean import MOST, Scatter, two_sided
from ridge.core.judging.comparison import refit
from ridge.core.judging.drift import Drift, find_drift
from ridge.core.judging.influence import readings_far_off
from ridge.core.judging.order import FEWEST, count_changes, find_order
from ridge.core.judging.periodogram import find_wave
from ridge.core.judging.significance import CHECK, WAVE_CHECK
from ridge.core.judging.two_groups import TwoGroups, find_two_groups
from ridge.core.models.base import Extended
from ridge.core.readings import Array
from ridge.core.results.fit import Fit, once

Indices = npt.NDArray[np.intp]

RANKED = 60
"""Readings up to which the chance of a change of spread is simulated."""


@dataclass(frozen=True)
class Pattern:
    """Signs of the residuals in order of x, and the evidence for a bend and for a change of their spread.

    ``changes``: how often the sign changes. ``order_p``: probability of neighbours so alike or so different if the model held
    (von Neumann's ``ratio``); None with too few readings.
    ``bend_p``: p of the F-test for an added x² term; None where it cannot be tried. ``bend``: +1 where the
    readings curve upwards (residuals above at both ends), −1 downwards, 0 where another power was tested.
    ``spread_p``: p of the rank correlation of the residuals' size with the fitted value; ``spread``: +1 where they grow.
    ``signs_p``: p of the sign test.
    """

    above: int
    below: int
    changes: int
    order_p: float | None
    bend_p: float | None
    bend: int
    spread_p: float | None = None
    spread: int = 0
    signs_p: float | None = None
    wave_p: float | None = None
    """p of the strongest wave in the residuals, and its ``period`` in the unit of x; see ``periodogram``."""
    period: float = 0.0
    ratio: float | None = None
    drift: Drift | None = None
    """With the order of the rows; None where they are in order of x or too few."""
    groups: TwoGroups | None = None
    """Members are rows; None where there are no two groups."""

    @property
    def drifts(self) -> bool:
        """Whether there is evidence that the residuals drift with the order of the rows."""
        return self.drift is not None and self.drift.p < CHECK

    @property
    def mixed(self) -> bool:
        """Whether there is evidence of two groups."""
        return self.groups is not None and self.groups.p < CHECK

    @property
    def visible(self) -> bool:
        """Whether the order of the signs, curvature or a wave are evidence of a pattern."""
        return self.waves or any(p is not None and p < CHECK for p in (self.order_p, self.bend_p))

    @property
    def waves(self) -> bool:
        """Return whether there is evidence of a wave."""
        return self.wave_p is not None and self.wave_p < WAVE_CHECK

    @property
    def spread_changes(self) -> bool:
        """Whether there is evidence that the scatter grows or shrinks with y."""
        return self.spread_p is not None and self.spread_p < CHECK


@once
def pattern_of(fit: Fit) -> Pattern:
    """The pattern of the residuals of the readings in use; of a fit in logarithms that of the line there.

    The evidence is that of the readings that do not lie far off: such a one draws the curve to itself, so that the others seem
    to have an order. Their residuals are those of a fit without it.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> line.pattern.above, line.pattern.below, line.pattern.changes
    (3, 2, 4)
    """
    if fit.log_line is not None:
        return pattern_of(fit.log_line)
    used = fit.readings.used
    order = np.argsort(fit.readings.x[used], kind="stable")
    residuals = fit.residuals[used]
    above, below = int((residuals > 0).sum()), int((residuals < 0).sum())
    changes = count_changes(residuals[order])
    signs_p = signs_probability(above, below)
    low, high = fit.readings.measured_range
    if fit.statistics.exact or fit.statistics.degrees_of_freedom <= 0 or not high > low:
        return Pattern(above, below, changes, None, None, 0, signs_p=signs_p)
    own = _own_terms(fit)
    far = readings_far_off(fit)
    # Where many lie far off it is the curve that does.
    kept = order if len(far) > max(1, len(order) // 10) else order[~np.isin(np.flatnonzero(used)[order], far)]
    if len(kept) < len(order) and (others := _without(fit, far)) is not None:
        return replace(pattern_of(others), above=above, below=below, changes=changes, signs_p=signs_p)
    root = np.sqrt(fit.readings.used_weights)[kept]
    directions = np.stack(own, axis=1).astype(np.float64)[kept] if own else np.zeros((len(kept), 1))
    scatter = Scatter(directions * root[:, None])
    left = scatter.left_of(residuals[kept] * root)
    simulated = scatter.simulated() if FEWEST <= len(kept) <= MOST else None
    neighbours = find_order(left, simulated)
    bend_p, bend = _bend(fit, [column[kept] for column in own], kept)
    spread_p, spread = _spread_trend(left, fit.fitted[used][kept], scatter.leverage, simulated)
    x, rows = fit.readings.x[used][kept], np.flatnonzero(used)[kept]
    wave = find_wave(x, left, root, scatter, simulated) if len(kept) >= FEWEST else None
    groups = find_two_groups(left, scatter.leverage, simulated)
    return Pattern(
        above, below, changes, None if neighbours is None else neighbours.chance, bend_p, bend, spread_p, spread, signs_p,
        None if wave is None else wave.p, 0.0 if wave is None else wave.period, None if neighbours is None else neighbours.ratio,
        find_drift(x, left, root, rows, scatter),
        None if groups is None else replace(groups, members=np.sort(rows[groups.members])),
    )  # fmt: skip


def _without(fit: Fit, rows: list[int]) -> Fit | None:
    """A nonlinear fit repeated without these rows; None where it cannot be, and for linear models, where ``Scatter`` is exact."""
    if fit.model.linear_form is not None or not fit.model.free_names:
        return None
    included = fit.readings.included.copy()
    included[rows] = False
    try:
        return refit(fit, included, Effort(REFIT))
    except RidgeError:
        return None


def _bend(fit: Fit, own: list[Extended], kept: Indices) -> tuple[float | None, int]:
    """F-test for one more power of x beside the model's own terms: x², or the first that they do not contain."""
    statistics = fit.statistics
    set_by = int(fit.readings.used.sum()) - len(kept)
    degrees = statistics.degrees_of_freedom - set_by - 1
    if degrees < 3:
        return None, 0
    used = fit.readings.used
    u = _unit_range(fit.readings.x[used])[kept]
    root = np.sqrt(fit.readings.used_weights[kept].astype(np.longdouble))
    target = fit.residuals[used][kept].astype(np.longdouble)
    for power in (1, 2, 3, 4) if fit.model.flat else (2, 3, 4):
        columns = np.stack([*own, u**power])
        try:
            solution = solve(columns, target / np.abs(target).max(), root)
        except DependentColumn as cause:
            if cause.index < len(own):
                return None, 0
            continue
        gained = solution.projections[-1] ** 2
        rss = np.dot(solution.weighted_residuals, solution.weighted_residuals)
        bend = int(np.sign(solution.projections[-1])) if power == 2 else 0
        if not rss > 0:
            return 0.0, bend
        return float(fdtrc(1, degrees, float(gained / rss * degrees))), bend
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


def _spread_trend(
    residuals: Array, fitted: Array, leverage: Array, simulated: Array | None
) -> tuple[float | None, int]:
    """Rank correlation of the size of the standardised residuals with the fitted value, its p and its sign.

    Spearman's coefficient (Conover, "Practical Nonparametric Statistics", section 5.4), its p from what the same readings
    would show if the model held, of more than 60 readings by the t approximation; 8 readings at least.
    """
    room = np.sqrt(np.where(leverage < 1 - 1e-9, 1 - leverage, np.inf))  # what has no room has no residual
    sizes = np.abs(residuals) / room
    if len(sizes) < FEWEST or not np.isfinite(fitted).all() or np.ptp(fitted) == 0:
        return None, 0
    first, second = ranks(sizes), ranks(fitted)
    first, second = first - first.mean(), second - second.mean()
    spread = np.sqrt((first @ first) * (second @ second))
    if not spread > 0:
        return None, 0
    r = float(np.clip(first @ second / spread, -1, 1))
    degrees, way = len(sizes) - 2, int(np.sign(r))
    if simulated is not None and len(sizes) <= RANKED:
        rising = (np.abs(simulated) / room).argsort(axis=1)
        places = np.arange(len(sizes)) - (len(sizes) - 1) / 2
        shares = second[rising] @ places / np.sqrt((places @ places) * (second @ second))
        return two_sided(shares, r), way
    if abs(r) == 1:
        return 0.0, way
    t = abs(r) * np.sqrt(degrees / (1 - r * r))
    return float(2 * stdtr(degrees, -t)), way


def signs_probability(above: int, below: int) -> float | None:
    """Chance of signs shared out at least so unevenly if each were a toss (two-sided sign test); None for none."""
    n, fewer = above + below, min(above, below)
    return min(1.0, float(2 * bdtr(fewer, n, 0.5))) if n else None
