"""Waves that few readings cannot distinguish: a fast one often fits nearly evenly spaced readings as well as a slow one."""

from __future__ import annotations

import numpy as np

from ridge.core.results.fit import Fit

MOST = 400
"""Readings up to which a faster wave is looked for: with more, uneven spacing distinguishes them."""
NEAR = 1e-3
"""Share of the sum of squares by which a faster wave must be better to be reported."""


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

    def rss(frequency: float) -> float:
        turn = frequency * (x - x[0])
        columns = np.stack([np.ones(len(x)), np.cos(turn), np.sin(turn)], axis=1) * root[:, None]
        found, *_ = np.linalg.lstsq(columns, y * root, rcond=None)
        return float(np.sum((y * root - columns @ found) ** 2))

    tried = middle + np.linspace(-np.pi, np.pi, 81) / span
    sizes = [rss(float(one)) for one in tried]
    best = int(np.argmin(sizes))
    if tried[best] <= slow * 1.01 or not sizes[best] < (1 - NEAR) * fit.statistics.residual_sum_of_squares:
        return None
    return float(2 * np.pi / tried[best])
