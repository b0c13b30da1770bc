"""A wave left in the residuals: the best of all frequencies, against what the same readings show if the model holds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.judging.clean import Scatter, chance_of_at_least
from ridge.core.readings import Array

STEPS = 2
"""Frequencies looked at in each cycle over the measured range."""
MOST_FREQUENCIES = 120
A_CYCLE = 2.0
"""Least number of intervals between readings per cycle: faster waves look like slower ones (Nyquist's limit)."""
LEAST_LEFT = 0.05
"""Share of a wave that the parameters must leave, so that it can be distinguished from the curve."""


@dataclass(frozen=True)
class Wave:
    """``p``: chance of a wave so strong; ``period``: in the unit of x."""

    p: float
    period: float


def find_wave(x: Array, residuals: Array, root: Array, scatter: Scatter, simulated: Array | None) -> Wave | None:
    """Look for a period in residuals times root weight, in order of x; None where too few readings are left.

    The statistic is the largest share of the sum of squares that one frequency accounts for beside the parameters (a least-squares
    periodogram, so unequal spacing is allowed: Lomb, Astrophysics and Space Science 39, 1976). ``simulated``: residuals if the
    model held, (draws, n); without them p is bounded by the number of frequencies (Scargle, Astrophysical Journal 263, 1982).
    """
    n, low, high = len(x), float(x.min()), float(x.max())
    total = float(residuals @ residuals)
    highest = (len(np.unique(x)) - 1) / A_CYCLE
    if not high > low or not total > 0 or highest < 2:
        return None
    count = int(min(MOST_FREQUENCIES, (highest - 1) * STEPS + 1))
    cycles = np.linspace(1.0, highest, count)
    turn = 2 * np.pi * np.outer(cycles, (x - low) / (high - low))
    first = scatter.left_of(np.cos(turn) * root)
    second = scatter.left_of(np.sin(turn) * root)
    sizes = np.einsum("fn,fn->f", first, first)
    with np.errstate(divide="ignore", invalid="ignore"):
        first = first / np.sqrt(sizes)[:, None]
        second = second - np.einsum("fn,fn->f", first, second)[:, None] * first
        left = np.einsum("fn,fn->f", second, second)
        second = second / np.sqrt(left)[:, None]
    distinct = (sizes > LEAST_LEFT * n / 2) & (left > LEAST_LEFT * n / 2)
    if not distinct.any():
        return None
    first, second, cycles = first[distinct], second[distinct], cycles[distinct]
    shares = ((first @ residuals) ** 2 + (second @ residuals) ** 2) / total
    best = int(np.argmax(shares))
    period = (high - low) / float(cycles[best])
    if simulated is not None:
        drawn = ((simulated @ first.T) ** 2 + (simulated @ second.T) ** 2).max(axis=1)
        drawn = drawn / np.einsum("dn,dn->d", simulated, simulated)
        return Wave(chance_of_at_least(drawn, float(shares[best])), period)
    degrees = n - round(float(scatter.leverage.sum()))
    single = (1 - float(shares[best])) ** max((degrees - 2) / 2, 0.5)
    return Wave(float(min(1.0, len(cycles) * single)), period)
