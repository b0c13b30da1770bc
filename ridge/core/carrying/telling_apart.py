"""Where one more reading tells two models apart best: where their predictions differ most in standard uncertainties of that difference
(Hunter and Reiner, "Designs for discriminating between two rival models", Technometrics 7, 1965; from memory)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.carrying.next_reading import PLACES
from ridge.core.errors import OutsideSense
from ridge.core.readings import Array
from ridge.core.results.fit import Fit


@dataclass(frozen=True)
class TellingApart:
    """``distance`` at ``x``, (places,): by how many standard uncertainties a reading there would separate the two; largest at ``best``."""

    x: Array
    distance: Array
    best: float

    @property
    def most(self) -> float:
        return float(np.max(self.distance))


def tell_apart(first: Fit, second: Fit, *, between: tuple[float, float] | None = None) -> TellingApart:
    """How well a reading at each place separates two fits.

    Parameters
    ----------
    between : (low, high)
        Where one can measure; the measured range of the first where left out.

    Raises OutsideSense where ``between`` has no width, or where neither curve has a scatter to compare with.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line, Polynomial
    >>> readings = Readings([0, 1, 2, 3, 4, 5], [0.1, 0.9, 2.2, 3.2, 4.5, 5.9])
    >>> tell_apart(fit(readings, Line()), fit(readings, Polynomial(2)), between=(0, 10)).best
    10.0
    """
    low, high = between or first.readings.measured_range
    if not (np.isfinite(low) and np.isfinite(high) and low < high):
        raise OutsideSense("between", "its first value must be smaller than its second.")
    x = np.linspace(low, high, PLACES)
    # The larger scatter: that of the model which leaves more is what a new reading would show at worst.
    scatter = max((one.reading_deviation or 0.0) for one in (first, second))
    if not scatter > 0:
        raise OutsideSense("fit", "has no scatter to compare with.")
    with np.errstate(all="ignore"):
        between_curves = np.abs(first.model.evaluate(x, first.values) - second.model.evaluate(x, second.values))
        distance = between_curves / np.sqrt(scatter**2 + _variance(first, x) + _variance(second, x))
    distance = np.where(np.isfinite(distance), distance, 0.0)
    return TellingApart(x, distance, float(x[int(np.argmax(distance))]))


def _variance(fit: Fit, x: Array) -> Array:
    """Of the curve at each place; nothing where it is not known."""
    deviation = fit.reading_deviation
    if deviation is None or not np.isfinite(fit.unit_covariance).all():
        return np.zeros_like(x)
    rows = np.nan_to_num(fit.model.gradient(x, fit.values))
    return np.asarray(deviation**2 * np.einsum("ij,jk,ik->i", rows, fit.unit_covariance, rows))
