"""Waves that few readings cannot distinguish: a fast one often fits nearly evenly spaced readings as well as a slow one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.special import fdtri

from ridge.core.fitting.place import Minimum
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

LEVEL = 0.95
MOST = 400
"""Readings up to which a faster wave is looked for: with more, uneven spacing distinguishes them."""
NEAR = 1e-3
"""Share of the sum of squares by which a faster wave must be better to be reported."""


def most_cycles_shown(u: Array) -> float:
    """Return the cycles over the range of x beyond which there are fewer than two readings per cycle."""
    return (len(np.unique(u)) - 1) / 2


def slowest_first(minima: Sequence[Minimum], u: Array, free: int) -> list[Minimum]:
    """Put the slowest of the minima that the readings cannot distinguish first, where the best has fewer than two readings per cycle.

    ``u``: x over [0, 1]; ``free``: number of parameters. Two minima are distinguished where their sums of squares differ by more
    than F at ``LEVEL`` with 1 and n − p degrees of freedom allows (Bates and Watts 1988, section 6.1).
    """
    if not minima:
        return []
    best, degrees = minima[0], len(u) - free
    if degrees <= 0 or abs(float(best.theta[0])) / (2 * np.pi) <= most_cycles_shown(u):
        return list(minima)
    limit = best.rss * (1 + float(fdtri(1, degrees, LEVEL)) / degrees)
    alike = [one for one in minima if one.rss <= limit]
    slowest = min(alike, key=lambda one: abs(float(one.theta[0])))
    return [slowest, *(one for one in minima if one is not slowest)]


def faster_period(fit: Fit) -> float | None:
    """Return the period of a faster wave that fits these readings better than the sinusoid of ``fit``, its alias by the median
    spacing of x; None where there is none."""
    readings = fit.readings
    order = np.argsort(readings.x[readings.used], kind="stable")
    x, y, weights = (
        one[order] for one in (readings.x[readings.used], readings.y[readings.used], readings.used_weights)
    )
    gaps = np.diff(np.unique(x))
    if not 4 <= len(gaps) <= MOST:
        return None
    slow = abs(fit.values["angular_frequency"])
    root, span = np.sqrt(weights), float(np.ptp(x))
    middle = abs(2 * np.pi / float(np.median(gaps)) - slow)
    tried = middle + np.linspace(-np.pi, np.pi, 81) / span
    turn = np.outer(tried, x - x[0])
    columns = np.stack([np.ones(turn.shape), np.cos(turn), np.sin(turn)], axis=2) * root[:, None]
    # Singular where the readings do not distinguish cos from sin: directions of no size take up nothing.
    basis, found, _ = np.linalg.svd(columns, full_matrices=False)
    taken = np.einsum("fnk,n->fk", basis, y * root) * (found > 1e-12 * found[:, :1])
    sizes = np.sum((y * root - np.einsum("fnk,fk->fn", basis, taken)) ** 2, axis=1)
    best = int(np.argmin(sizes))
    if tried[best] <= slow * 1.01 or not sizes[best] < (1 - NEAR) * fit.statistics.residual_sum_of_squares:
        return None
    return float(2 * np.pi / tried[best])
