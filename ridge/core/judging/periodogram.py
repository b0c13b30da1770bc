"""A wave left in the residuals: the best of all frequencies, against what the same readings show if the model holds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.fft import next_fast_len, rfft

from ridge.core.judging.clean import Scatter, chance_of_at_least
from ridge.core.readings import Array

STEPS = 2
"""Frequencies looked at per cycle over the measured range."""
A_CYCLE = 2.2
"""Least number of intervals between readings per cycle: faster waves are alternating neighbours (Nyquist's limit is 2)."""
LEAST_LEFT = 0.05
"""Share of a wave that the parameters must leave, so that it can be distinguished from the curve."""
FEW = 60
"""Readings up to which the parameters and the chance are exact; with more, parameters hardly affect the power at a frequency."""
MOST_CYCLES, BINS = 4096, 16
"""Fastest wave looked for, in cycles over the measured range, and places of the grid of x per cycle of it: a reading is placed within
11 degrees of its phase."""


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
    highest = min((len(np.unique(x)) - 1) / A_CYCLE, MOST_CYCLES)
    if not high > low or not total > 0 or highest < 2:
        return None
    degrees = n - round(float(scatter.leverage.sum()))
    if n > FEW:
        shares, cycles = _by_transform((x - low) / (high - low), residuals, root, highest)
        return _strongest(shares / total, cycles, high - low, degrees)
    cycles = np.linspace(1.0, highest, int((highest - 1) * STEPS + 1))
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
    if simulated is None:
        return _strongest(shares, cycles, high - low, degrees)
    best = int(np.argmax(shares))
    drawn = ((simulated @ first.T) ** 2 + (simulated @ second.T) ** 2).max(axis=1)
    drawn = drawn / np.einsum("dn,dn->d", simulated, simulated)
    return Wave(chance_of_at_least(drawn, float(shares[best])), (high - low) / float(cycles[best]))


def _strongest(shares: Array, cycles: Array, width: float, degrees: int) -> Wave:
    """The best frequency, its chance bounded by that of a single one times their number."""
    best = int(np.argmax(shares))
    single = (1 - min(float(shares[best]), 1.0)) ** max((degrees - 2) / 2, 0.5)
    return Wave(float(min(1.0, len(cycles) * single)), width / float(cycles[best]))


def _by_transform(u: Array, residuals: Array, root: Array, highest: float) -> tuple[Array, Array]:
    """Sums of squares that each frequency accounts for, by the fast Fourier transform of the readings put on a grid of ``u``, 0 to 1.

    The sums over cos, sin and their products are those of Lomb's periodogram; Press and Rybicki, Astrophysical Journal 338, 1989,
    compute it by transforms too.
    """
    size = next_fast_len(int(np.ceil(BINS * highest)) * STEPS, real=True)
    place = np.floor(u * (size / STEPS - 1)).astype(np.intp)
    count = int((highest - 1) * STEPS + 1)
    at = STEPS + np.arange(count)
    # Frequencies are in steps of one half cycle over the range, because the grid is twice as long as the range.
    signal = rfft(np.bincount(place, residuals * root, size))[at]
    weights = rfft(np.bincount(place, root * root, size))
    turned = weights[2 * at]
    cos_cos, sin_sin, cos_sin = (
        (weights[0].real + turned.real) / 2,
        (weights[0].real - turned.real) / 2,
        -turned.imag / 2,
    )
    by_cos, by_sin = signal.real, -signal.imag
    left = cos_cos * sin_sin - cos_sin**2
    with np.errstate(divide="ignore", invalid="ignore"):
        gained = (sin_sin * by_cos**2 - 2 * cos_sin * by_cos * by_sin + cos_cos * by_sin**2) / left
    return np.where(left > (LEAST_LEFT * weights[0].real / 2) ** 2, gained, 0.0), at / STEPS
