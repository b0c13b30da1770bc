"""Trial frequencies of a periodic model, from the readings."""

from __future__ import annotations

import numpy as np
from scipy.fft import rfft

from ridge.core.models.base import Array

PER_CYCLE = 6
"""Trials in each step of one cycle over the range: enough for a trial to lie in every valley."""
DIRECT = 16.0
"""So many cycles over the range are tried one by one, however many readings there are."""
FEW = 240
"""Up to so many readings, the faster ones are tried one by one too, and beyond that found by their spectrum."""


def most_cycles(readings: int) -> float:
    """Cycles over the range that are looked for at most."""
    return max(10.0, readings / 2)


def angular_frequencies(u: Array) -> Array:
    """Trial values of ω for u over [0, 1], ascending, shape (trials, 1)."""
    slow = np.array([0.05, 0.08, 0.12, 0.17, 0.23, 0.3, 0.38, 0.46])
    last = min(most_cycles(len(u)), DIRECT)
    return 2 * np.pi * np.concatenate([slow, np.arange(0.55, last + 0.5 / PER_CYCLE, 1 / PER_CYCLE)])[:, None]


def high_frequencies(u: Array, y: Array) -> Array:
    """Trial values of ω beyond ``angular_frequencies``, ascending: all, or of many readings the strongest in their spectrum.

    A fast Fourier transform of the binned readings (Press and Rybicki, Astrophysical Journal 338, 1989, use the
    same shortcut).
    """
    cycles = most_cycles(len(u))
    if len(u) < FEW:
        return 2 * np.pi * np.arange(DIRECT + 1 / PER_CYCLE, cycles + 0.5 / PER_CYCLE, 1 / PER_CYCLE)[:, None]
    padded = 8  # of the range, with zeros: peaks then show their tops
    size = 1 << int(np.ceil(np.log2(2 * padded * len(u))))
    bins = size // padded
    from_middle, rest = u - u.mean(), y - y.mean()
    rest -= (from_middle @ rest) / (from_middle @ from_middle) * from_middle
    binned = np.bincount(np.minimum((u * bins).astype(np.int64), bins - 1), rest, minlength=size)
    spectrum = rfft(binned)[: int(cycles * padded) + 1]
    strength = spectrum.real**2 + spectrum.imag**2
    strength[: int(DIRECT * padded)] = 0
    peaks = np.flatnonzero((strength[1:-1] >= strength[:-2]) & (strength[1:-1] > strength[2:])) + 1
    best = np.sort(peaks[np.argsort(-strength[peaks], kind="stable")[:3]])
    return 2 * np.pi * best[:, None] / padded
