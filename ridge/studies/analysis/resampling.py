"""Fits to shares of the readings: drawn by a seed, so that the same question has the same answer."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.fitting.effort import Effort
from ridge.core.judging.misses import typical_miss
from ridge.core.judging.resampling import (
    Draw,
    Movement,
    each_in_turn,
    k_fold,
    movement,
    random_shares,
    root_mean_square,
)
from ridge.core.results.fit import Fit
from ridge.studies.analysis.fits import Fitted

EFFORT = 1e10
"""Work for the draws of one fit: those not begun when it is spent count as not fitted."""


@dataclass(frozen=True)
class Drawing:
    """How shares of the readings are drawn.

    ``kind``: "shares" (``times`` random ones of ``share`` per cent), "parts" (each of ``parts`` left out in turn) or
    "in_turn" (each reading left out). The same ``seed``, the same draws.
    """

    kind: str
    share: int
    times: int
    parts: int
    seed: int


@dataclass(frozen=True)
class Resampled:
    """One fit on every draw. ``error``: root mean square of what it misses held-out readings by; ``own``: its typical miss
    where it is fitted to all readings, None where nothing scatters; both in the unit of y."""

    one: Fitted
    fit: Fit
    draws: tuple[Draw, ...]
    error: float
    own: float | None
    movement: Movement

    @property
    def failed(self) -> int:
        return sum(draw.fit is None for draw in self.draws)


def resampled(chosen: Sequence[Fitted], how: Drawing) -> list[Resampled]:
    """Those of the fits that are made to the readings of the first one, on the same draws of them."""
    first = chosen[0].fit
    assert first is not None
    used = first.readings.used
    return [_resampled(one, one.fit, how) for one in chosen if one.fit and np.array_equal(one.fit.readings.used, used)]


def _resampled(one: Fitted, fit: Fit, how: Drawing) -> Resampled:
    draws = _draws(fit, how, int(fit.readings.used.sum()))
    own = None if fit.statistics.exact else typical_miss(fit)
    return Resampled(one, fit, tuple(draws), root_mean_square(draws, fit), own, movement(draws, fit))


def _draws(fit: Fit, how: Drawing, used: int) -> list[Draw]:
    if how.kind == "in_turn":
        return each_in_turn(fit, Effort(EFFORT))
    if how.kind == "parts":
        return k_fold(fit, min(how.parts, used), how.seed, Effort(EFFORT))
    return random_shares(fit, how.share / 100, how.times, how.seed, Effort(EFFORT))
