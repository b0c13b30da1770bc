"""The residuals of a fit as five views and a table show them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ridge.core.judging.quantiles import normal_quantiles
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

MOST_DRAWN = 4000


@dataclass(frozen=True)
class ResidualViews:
    """What is drawn of the residuals of a fit. ``rows``: those drawn, from 0; ``expected``: the normal quantile of every
    reading's standardised residual, NaN where it has none; ``counts`` of the bins between ``edges``, in the unit of y."""

    fit: Fit
    rows: npt.NDArray[np.intp]
    expected: Array
    counts: npt.NDArray[np.intp]
    edges: Array

    @property
    def all_drawn(self) -> bool:
        return len(self.rows) == int(self.fit.readings.used.sum())


def views_of(fit: Fit) -> ResidualViews:
    quantiles = normal_quantiles(fit)
    expected = np.full(len(fit.residuals), np.nan)
    expected[quantiles.rows] = quantiles.expected
    return ResidualViews(fit, _drawn(fit), expected, *_bins(fit.residuals[fit.readings.used]))


def _drawn(fit: Fit) -> npt.NDArray[np.intp]:
    """The rows in use; of very many every so manieth, and the largest residuals in any case."""
    rows = np.flatnonzero(fit.readings.used)
    if len(rows) <= MOST_DRAWN:
        return rows
    even = rows[np.linspace(0, len(rows) - 1, MOST_DRAWN - 200).astype(int)]
    largest = rows[np.argsort(-np.abs(fit.residuals[rows]), kind="stable")[:200]]
    return np.union1d(even, largest)


def _bins(residuals: Array) -> tuple[npt.NDArray[np.intp], Array]:
    """Bins by the Freedman-Diaconis rule (width 2·IQR/∛n), between 5 and 40 of them however far one residual lies out;
    none where all residuals are equal."""
    span = float(np.ptp(residuals)) if len(residuals) else 0.0
    if len(residuals) < 2 or not 0 < span < np.inf:
        return np.empty(0, np.intp), np.empty(0)
    upper, lower = np.percentile(residuals, (75, 25))
    width = 2 * (upper - lower) / np.cbrt(len(residuals))
    count = int(np.clip(np.ceil(min(span / width, 40)) if width > 0 else 5, 5, 40))
    return np.histogram(residuals, count)
