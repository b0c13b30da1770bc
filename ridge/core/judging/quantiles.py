"""Normal quantiles: residuals against what normal scatter would look like."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.special import ndtri
from scipy.stats import shapiro

from ridge.core.readings import Array
from ridge.core.results.fit import Fit

FEWEST, MOST = 8, 5000
"""Readings between which the test for normality is made."""


@dataclass(frozen=True)
class Quantiles:
    """``expected`` and ``observed`` standardised residuals, ascending, with their 0-based ``rows``.

    ``p``: of the test for normality by Shapiro and Wilk (Biometrika 52, 1965), which allows for the number of readings; None
    with fewer than eight readings or more than 5000.
    """

    rows: npt.NDArray[np.intp]
    expected: Array
    observed: Array
    p: float | None


def normal_quantiles(fit: Fit) -> Quantiles:
    """Standardised residuals in order, against normal quantiles at (i − 3/8)/(n + 1/4).

    Blom, "Statistical Estimates and Transformed Beta-Variables", 1958. Rows without a standardised residual are left out.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.judging.quantiles import normal_quantiles
    >>> normal_quantiles(line).expected.round(2).tolist()
    [-1.18, -0.5, 0.0, 0.5, 1.18]
    """
    standardised = fit.standardised_residuals
    rows = np.flatnonzero(np.isfinite(standardised))
    rows = rows[np.argsort(standardised[rows], kind="stable")]
    observed = standardised[rows]
    n = len(rows)
    expected = ndtri((np.arange(1, n + 1) - 0.375) / (n + 0.25))
    p = float(shapiro(observed).pvalue) if FEWEST <= n <= MOST and np.ptp(observed) > 0 else None
    return Quantiles(rows, expected, observed, p)
