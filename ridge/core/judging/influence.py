"""Single readings: those that lie far off, and those that decide the fit."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt
from scipy.special import ndtr, stdtr

from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import REFIT, Effort
from ridge.core.fitting.fit import fit as fit_readings
from ridge.core.judging.comparison import refit
from ridge.core.judging.significance import ALARM
from ridge.core.predicting.at_x import predict
from ridge.core.readings import Array, Mask
from ridge.core.results.fit import Fit

Indices = npt.NDArray[np.intp]

ALONE = 1 - 1e-6
"""Leverage from which on a reading by itself determines something of the curve."""
HELD_ON_TO = 0.9
"""Leverage from which on a bent model follows a reading so closely that only a refit without it tells how far off it is."""
PLACES = 101
"""Places within the measured range at which it is seen how far the curve moves."""
EMPTIER = 1.5
"""How many times less room (1 − leverage) a reading has than in evenly spaced readings when its place counts as lonely …"""
GAP = 2.0
"""… and so many times their step lies between it and the nearest other x."""
MOST_REFITS = 3
MOST_NAMED = 20
"""Readings, those that move the curve most, that are held against chance."""


def readings_far_off(fit: Fit, chance: float = ALARM) -> list[int]:
    """Rows (0-based) whose deleted residual is too large for chance, allowing for the number of readings.

    Bonferroni's bound on the externally studentised residual (Cook and Weisberg 1982, section 2.2.2). Of a bent model, rows
    with a leverage near one are held against a fit without them.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.judging.influence import readings_far_off
    >>> from ridge.core.models import Line
    >>> readings_far_off(fit(Readings([1, 2, 3, 4, 5, 6], [2.1, 3.9, 9.2, 7.9, 10.1, 12.0]), Line()))
    [2]
    """
    n, degrees = fit.statistics.n, fit.statistics.degrees_of_freedom
    if degrees < 3 or fit.statistics.exact or not fit.statistics.residual_standard_deviation:
        return []
    p = n * _chance(fit, fit.deleted_residuals, degrees - 1)
    found = [int(row) for row in np.flatnonzero(np.nan_to_num(p, nan=1.0) < chance)]
    if not _bent(fit):
        return found
    return [row for row in found if fit.leverage[row] < HELD_ON_TO or _far_from_the_others(fit, row, chance)]


def _chance(fit: Fit, sizes: Array, degrees: int) -> Array:
    """Two-sided chance of residuals of that many standard deviations."""
    sizes = np.abs(sizes)
    return np.asarray(2 * (ndtr(-sizes) if fit.readings.absolute_errors else stdtr(degrees, -sizes)))


def _bent(fit: Fit) -> bool:
    return fit.model.linear_form is None and fit.least_squares_in == "y"


def _far_from_the_others(fit: Fit, row: int, chance: float) -> bool:
    """Whether a reading lies too far from the fit to all others for one of them."""
    others = fit.readings.included.copy()
    others[row] = False
    try:
        other = refit(fit, others, Effort(REFIT))
        expected = predict(other, float(fit.readings.x[row]))
        deviation = (float(expected.high) - float(expected.low)) / 2 / (other.critical_value(0.95) or np.inf)
        off = (float(fit.readings.y[row]) - float(expected.value)) / deviation
    except (RidgeError, ZeroDivisionError):
        return False
    p = fit.statistics.n * _chance(fit, np.array([off]), max(other.statistics.degrees_of_freedom, 1))
    return bool(p[0] < chance)


def readings_that_decide(fit: Fit, chance: float = ALARM) -> list[int]:
    """Rows (0-based) without which the curve would lie elsewhere, somewhere within the measured range, than its 95 % limits say.

    Two ways lead there, and a third needs no measuring: the reading lies where there are hardly any others, so that the curve
    follows it wherever it goes; or it moves the curve more than a reading there does by chance in a study of a hundred; or it
    alone determines something of the curve (leverage one). A reading at the steep end of a law does move the curve by more
    than its limits in many sound studies: that alone is no reason to doubt it.
    The shift is that of Cook and Weisberg 1982, section 3.2, exact for linear models.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.judging.influence import readings_that_decide
    >>> from ridge.core.models import Line
    >>> readings_that_decide(fit(Readings([1, 1, 1, 1, 9], [2.1, 2.0, 1.9, 2.2, 18.0]), Line()))
    [4]
    """
    degrees = fit.statistics.degrees_of_freedom
    if degrees < 1 or fit.statistics.exact or not fit.reading_deviation or fit.least_squares_in == "given":
        return []
    if fit.log_line is not None:
        return readings_that_decide(fit.log_line, chance)
    used = np.flatnonzero(fit.readings.used)
    leverage = fit.leverage[used]
    alone = leverage > ALONE
    moved, per_residual = _moved(fit, used, leverage)
    lonely = _lonely(fit, used, leverage)
    if _bent(fit):  # such a reading moves a bent curve farther than its tangent plane
        for place in np.flatnonzero(lonely)[:MOST_REFITS]:
            moved[place] = max(moved[place], _moved_without(fit, int(used[place])))
    beyond = np.full(len(used), np.inf)
    with np.errstate(all="ignore"):
        for place in np.argsort(-moved, kind="stable")[:MOST_NAMED]:
            if moved[place] > 1:
                # Chance of so large a shift at any of the readings, each with its own weight (Bonferroni's inequality).
                beyond[place] = _chance_of_standardised(fit, moved[place] / per_residual, degrees).sum()
    decides = alone | ((moved > 1) & (lonely | (beyond < chance)))
    return [int(row) for row in used[np.nan_to_num(decides).astype(bool)]]


def _moved(fit: Fit, used: Indices, leverage: Array) -> tuple[Array, Array]:
    """For each reading in use how far the curve moves without it at most, in units of its 95 % limits there; and the same for
    a standardised residual of one."""
    at = [fit.model.parameter_names.index(name) for name in fit.model.free_names]
    covariance = fit.unit_covariance[np.ix_(at, at)]
    with np.errstate(all="ignore"):
        of_readings = (
            fit.model.gradient(fit.readings.x[used], fit.values)[:, at] * np.sqrt(fit.readings.used_weights)[:, None]
        )
        places = np.linspace(*fit.readings.measured_range, PLACES)
        of_places = fit.model.gradient(places, fit.values)[:, at]
        # Each place in units of its own standard error: what is left is how closely the curve there follows each reading.
        error = np.sqrt(np.einsum("ij,jk,ik->i", of_places, covariance, of_places))
        follows = np.fmax.reduce(np.abs(of_places @ covariance @ of_readings.T) / error[:, None], axis=0, initial=0.0)
        width = fit.critical_value(0.95) or np.inf
        per_residual = follows / np.sqrt(np.maximum(1 - leverage, 1e-300)) / width
        moved = np.abs(fit._rows_standardised[used]) * per_residual
    return np.nan_to_num(moved), np.maximum(np.nan_to_num(per_residual), 1e-300)


def _moved_without(fit: Fit, row: int) -> float:
    """The same from a fit without the reading; infinite where the others do not allow one."""
    others = fit.readings.included.copy()
    others[row] = False
    try:
        # It may find another minimum.
        other = fit_readings(fit.readings.choosing(others), fit.model, effort=Effort(REFIT))
    except RidgeError:
        return float("inf")
    at = predict(fit, np.linspace(*fit.readings.measured_range, PLACES))
    with np.errstate(all="ignore"):
        moved = np.abs(other.evaluate(at.x) - at.value) / (at.mean_high - at.value)
    return float(np.fmax.reduce(moved, initial=0.0))


def _chance_of_standardised(fit: Fit, sizes: Array, degrees: int) -> Array:
    """Two-sided chance of standardised residuals of such sizes: r²/d follows Beta(½, (d − 1)/2) (Cook and Weisberg 1982,
    section 2.2.1)."""
    if fit.readings.absolute_errors or degrees < 2:
        return np.asarray(2 * ndtr(-sizes))
    room = degrees - sizes**2
    return np.where(room > 0, 2 * stdtr(degrees - 1, -sizes * np.sqrt((degrees - 1) / np.maximum(room, 1e-300))), 0.0)


def _lonely(fit: Fit, used: Indices, leverage: Array) -> Mask:
    """Readings that lie where there are hardly any others, and have less room than those of an evenly spaced study over the
    same range have near there."""
    x, n = fit.readings.x[used], len(used)
    low, high = fit.readings.measured_range
    if not high > low or n < 3:
        return np.zeros(n, dtype=np.bool_)
    places = np.unique(x)
    gaps = np.diff(places)
    of_place = np.searchsorted(places, x)
    nearest_other = np.minimum(np.append(np.inf, gaps), np.append(gaps, np.inf))[of_place]
    apart: Mask = (nearest_other > GAP * ((high - low) / (n - 1))) & (np.bincount(of_place)[of_place] == 1)
    if not apart.any():
        return apart
    at = [fit.model.parameter_names.index(name) for name in fit.model.free_names]
    even = np.linspace(low, high, n)
    with np.errstate(all="ignore"):
        directions = fit.model.gradient(even, fit.values)[:, at]
        directions = directions / np.max(np.abs(directions), axis=0)
        if not np.isfinite(directions).all():
            return np.zeros(n, dtype=np.bool_)
        basis, _ = np.linalg.qr(directions)
        of_even = np.einsum("np,np->n", basis, basis)
    nearest = np.rint((x - low) / (high - low) * (n - 1)).astype(np.intp)
    around = np.maximum.reduce([of_even[np.clip(nearest + off, 0, n - 1)] for off in (-1, 0, 1)])
    return np.asarray(apart & (1 - leverage < (1 - around) / EMPTIER), dtype=np.bool_)
