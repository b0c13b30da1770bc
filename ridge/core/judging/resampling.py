"""Fits to shares of the readings: how much a curve changes shows how much of it follows the scatter.

Every draw comes from a seed, so that it can be repeated.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.errors import OutsideSense, RidgeError
from ridge.core.fitting.effort import REFIT, Effort
from ridge.core.fitting.fit import fit as fit_readings
from ridge.core.judging.comparison import refit
from ridge.core.readings import Array, Mask, Readings
from ridge.core.results.fit import Fit
from ridge.core.results.statistics import check_level


@dataclass(frozen=True)
class Draw:
    """One share. ``included``: rows that it was fitted to. ``fit`` is None where they could not be fitted.

    ``error``: root mean square miss of the readings in use that were left out, each as often as it occurred, in the unit
    of y; NaN without a fit.
    """

    included: Mask
    fit: Fit | None
    error: float


@dataclass(frozen=True)
class Bootstrap:
    """Percentile intervals from refits to readings drawn anew.

    ``values``: (draws that could be fitted, parameters). ``intervals`` by parameter name.
    """

    level: float
    values: Array
    intervals: dict[str, tuple[float, float]]
    failed: int


def random_shares(
    fit: Fit, share: float = 0.5, times: int = 9, seed: int = 0, effort: Effort | None = None
) -> list[Draw]:
    """Fit ``times`` random shares of the readings in use; those not begun when the ``effort`` is spent have no fit.

    Raises OutsideSense for a share outside (0, 1) or fewer than one time.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.judging.resampling import random_shares
    >>> [int(draw.included.sum()) for draw in random_shares(line, 0.6, times=3)]
    [3, 3, 3]
    """
    if not 0 < share < 1:
        raise OutsideSense("share", "lies between 0 and 1, its ends excluded.")
    _check_times(times)
    used = np.flatnonzero(fit.readings.used)
    count = min(max(round(share * len(used)), 1), len(used) - 1)
    random = np.random.default_rng(seed)
    effort = effort or Effort()
    return [_draw(fit, random.permutation(used)[:count], effort) for _ in range(times)]


def k_fold(fit: Fit, folds: int = 5, seed: int = 0, effort: Effort | None = None) -> list[Draw]:
    """Leave out each of ``folds`` equal parts in turn. Raises OutsideSense unless 2 ≤ folds ≤ readings in use.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.judging.resampling import k_fold
    >>> sorted(int((~draw.included).sum()) for draw in k_fold(line, 2))
    [2, 3]
    """
    used = np.flatnonzero(fit.readings.used)
    if folds != int(folds) or not 2 <= folds <= len(used):
        raise OutsideSense("folds", f"is a whole number from 2 to {len(used)}.")
    shuffled = np.random.default_rng(seed).permutation(used)
    effort = effort or Effort()
    return [_draw(fit, np.setdiff1d(used, part), effort) for part in np.array_split(shuffled, int(folds))]


def each_in_turn(fit: Fit, effort: Effort | None = None) -> list[Draw]:
    """Leave out each reading in use, in their order.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.judging.resampling import each_in_turn
    >>> [round(draw.error, 2) for draw in each_in_turn(line)]
    [0.15, 0.19, 0.23, 0.3, 0.25]
    """
    used, effort = np.flatnonzero(fit.readings.used), effort or Effort()
    return [_draw(fit, np.delete(used, place), effort) for place in range(len(used))]


@dataclass(frozen=True)
class Movement:
    """How far the curves of several draws lie apart over the measured range, in the unit of y.

    ``typical``: the median over x of their standard deviation; ``largest``: the greatest one, ``at`` the x where. NaN where
    fewer than two draws could be fitted.
    """

    typical: float
    largest: float
    at: float


def movement(draws: list[Draw], fit: Fit, places: int = 121) -> Movement:
    """How much the curve changes from draw to draw."""
    x = np.linspace(*fit.readings.measured_range, places)
    with np.errstate(all="ignore"):
        curves = np.array([draw.fit.evaluate(x) for draw in draws if draw.fit is not None])
        if len(curves) < 2:
            return Movement(np.nan, np.nan, np.nan)
        apart = np.std(curves, axis=0, ddof=1)
    known = np.isfinite(apart)
    if not known.any():
        return Movement(np.nan, np.nan, np.nan)
    most = int(np.argmax(np.where(known, apart, -1.0)))
    return Movement(float(np.median(apart[known])), float(apart[most]), float(x[most]))


def root_mean_square(draws: list[Draw], fit: Fit) -> float:
    """The error on readings left out, over all draws; NaN where none could be fitted."""
    known = [draw for draw in draws if draw.fit is not None and np.isfinite(draw.error)]
    often = _often(fit)
    held_out = np.array([often[~draw.included].sum() for draw in known])
    return _mean_square(np.array([draw.error for draw in known]), held_out)


def bootstrap(fit: Fit, times: int = 400, level: float = 0.95, seed: int = 0, of: str = "residuals") -> Bootstrap:
    """Refit readings drawn anew.

    ``of`` "residuals": the curve plus its residuals in random order, each enlarged by 1/√(1 − leverage) so that they
    scatter as the readings do; "readings": rows drawn with repetition (Davison and Hinkley, "Bootstrap Methods and their
    Application", 1997, chapter 6). Raises OutsideSense.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.judging.resampling import bootstrap
    >>> again = bootstrap(line, times=50)
    >>> again.values.shape, again.failed
    ((50, 2), 0)
    """

    check_level(level)
    _check_times(times)
    if of not in ("residuals", "readings"):
        raise OutsideSense("of", "is 'residuals' or 'readings'.")
    used = np.flatnonzero(fit.readings.used)
    readings = fit.readings
    root = np.sqrt(readings.used_weights)
    spread = fit.residuals[used] * root / np.sqrt(np.maximum(1 - fit.leverage[used], 1e-6))
    spread = spread - spread.mean()
    random = np.random.default_rng(seed)
    start = None if fit.model.linear_form is not None else fit.values
    found, failed = [], 0
    for _ in range(times):
        drawn = random.integers(0, len(used), len(used))
        if of == "residuals":
            rows, y = used, fit.fitted[used] + spread[drawn] / root
        else:
            rows, y = used[drawn], readings.y[used[drawn]]
        again = Readings(
            readings.x[rows], y,
            y_error=None if readings.y_error is None else readings.y_error[rows],
            weight=None if readings.weight is None else readings.weight[rows],
            count=None if readings.count is None else readings.count[rows],
            absolute_errors=readings.absolute_errors,
        )  # fmt: skip
        try:
            one = fit_readings(again, fit.model, start=start, least_squares_in=_plain(fit))
        except RidgeError:
            failed += 1
            continue
        found.append([one.values[name] for name in fit.model.parameter_names])
    values = np.array(found).reshape(len(found), len(fit.model.parameter_names))
    ends = ((1 - level) / 2, (1 + level) / 2)
    intervals = {}
    for i, name in enumerate(fit.model.parameter_names):
        low, high = np.quantile(values[:, i], ends) if len(values) else (-np.inf, np.inf)
        intervals[name] = (float(low), float(high))
    return Bootstrap(level, values, intervals, failed)


def _plain(fit: Fit) -> str:
    return fit.least_squares_in if fit.least_squares_in == "logarithms" else "y"


def _draw(fit: Fit, rows: Array, effort: Effort) -> Draw:
    included = np.zeros(len(fit.readings), dtype=np.bool_)
    included[rows] = True
    out = fit.readings.used & ~included
    try:
        one = None if effort.passed else refit(fit, included, effort.part(REFIT))
    except RidgeError:
        one = None
    if one is None:
        return Draw(included, None, float("nan"))
    misses = fit.readings.y[out] - one.evaluate(fit.readings.x[out])
    return Draw(included, one, _mean_square(misses, _often(fit)[out]))


def _often(fit: Fit) -> Array:
    """How often each row occurred, shape (rows,); zero where it is not used."""
    often = np.zeros(len(fit.readings))
    often[fit.readings.used] = fit.readings.used_counts
    return often


def _mean_square(misses: Array, often: Array) -> float:
    """Its root, each miss as often as said; NaN of none. Scaled, so that no square leaves the doubles."""
    if not len(misses):
        return float("nan")
    size = float(np.max(np.abs(misses))) or 1.0
    return size * float(np.sqrt(often @ (misses / size) ** 2 / often.sum()))


def _check_times(times: int) -> None:
    if times != int(times) or times < 1:
        raise OutsideSense("times", "is a whole number from 1 on.")
