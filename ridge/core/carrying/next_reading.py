"""Where one more reading narrows a result most: c-optimal design (Atkinson, Donev and Tobias, "Optimum Experimental Designs, with SAS",
2007, chapter 10), one reading at a time.

A reading at x with the gradient g of the curve adds ggᵀ to the information; the variance of a quantity with the gradient c falls from
cᵀCc by (cᵀCg)²/(1 + gᵀCg) (Sherman and Morrison), in units of the variance of a reading. It holds as far as the model does.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.optimize import minimize_scalar

from ridge.core.errors import OutsideSense
from ridge.core.formula import Program, differentiate, parse
from ridge.core.formula.tree import names_in
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

PLACES = 241
MOST_READINGS = 10_000


@dataclass(frozen=True)
class NextReading:
    """``standard_error`` at ``x``, (places,): of the quantity after one more reading there. ``now``: what it is without; ``best``: where it
    falls most."""

    x: Array
    standard_error: Array
    now: float
    best: float
    _covariance: Array
    _gradient: Array
    _fit: Fit

    def readings_needed(self, share: float) -> int | None:
        """Readings at ``best`` that bring the standard uncertainty to this share of what it is now; None where no number of them
        does, since other places are needed too (``plan``). Raises OutsideSense outside 0 to 1."""
        _check_share(share)
        g = _rows(self._fit, np.array([self.best]))[0]
        variance = float(self._gradient @ self._covariance @ self._gradient)
        toward = float(self._gradient @ self._covariance @ g) ** 2
        own = float(g @ self._covariance @ g)
        wanted = share**2 * variance
        # variance − k·toward/(1 + k·own) = wanted
        if variance - toward / own >= wanted if own else True:
            return None
        return int(np.ceil((variance - wanted) / (toward - (variance - wanted) * own) - 1e-9))

    def plan(self, share: float) -> list[float] | None:
        """Places of further readings, each the best after those before it, that bring the standard uncertainty to this share of what
        it is now; None where more than ``MOST_READINGS`` would be needed. Raises OutsideSense outside 0 to 1."""
        _check_share(share)
        rows = _rows(self._fit, self.x)
        covariance, gradient = self._covariance.copy(), self._gradient
        start = float(gradient @ covariance @ gradient)
        places: list[float] = []
        while float(gradient @ covariance @ gradient) > share**2 * start * (1 + 1e-12):
            if len(places) == MOST_READINGS:
                return None
            at = int(np.argmax(_falls(rows, covariance, gradient)))
            g = rows[at]
            covariance = covariance - np.outer(covariance @ g, covariance @ g) / (1 + g @ covariance @ g)
            places.append(float(self.x[at]))
        return places


def _check_share(share: float) -> None:
    if not 0 < share < 1:
        raise OutsideSense("share", "lies between 0 and 1: what is to be left of the uncertainty.")


def where_next(
    fit: Fit, what: str = "", *, between: tuple[float, float] | None = None, at: float | None = None
) -> NextReading:
    """The uncertainty of a quantity after one more reading at each place.

    Parameters
    ----------
    what :
        A parameter, or a formula in parameters as in ``follow``.
    at :
        Instead: the value of the curve at this x.
    between : (low, high)
        Where one can measure; the measured range where left out.

    A new reading has weight one. Raises OutsideSense where nothing or something unknown is asked, where ``between`` has no width, or
    where the fit has no covariance.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.carrying import where_next
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> found = where_next(line, "slope", between=(0, 8))
    >>> found.best, found.readings_needed(0.7)
    (8.0, 1)
    """
    low, high = between or fit.readings.measured_range
    if not (np.isfinite(low) and np.isfinite(high) and low < high):
        raise OutsideSense("between", "its first value must be smaller than its second.")
    deviation = fit.reading_deviation
    if fit.least_squares_in != "y" or deviation is None or not np.isfinite(fit.unit_covariance).all():
        raise OutsideSense("fit", "has no covariance to begin from.")
    gradient = _gradient_of(fit, what, at)
    covariance = np.array(fit.unit_covariance)
    x = np.linspace(low, high, PLACES)
    variance = float(gradient @ covariance @ gradient)

    def left(places: Array) -> Array:
        return np.asarray(
            deviation * np.sqrt(np.maximum(variance - _falls(_rows(fit, places), covariance, gradient), 0.0))
        )

    errors = left(x)
    best = _sharpened(left, x, errors)
    return NextReading(x, errors, float(deviation * np.sqrt(variance)), best, covariance, gradient, fit)


def _gradient_of(fit: Fit, what: str, at: float | None) -> Array:
    """Derivatives of the quantity by every parameter, in their order."""
    names = fit.model.parameter_names
    if at is not None:
        return np.asarray(fit.model.gradient(np.array([float(at)]), fit.values)[0])
    if not what.strip():
        raise OutsideSense("what", "is a parameter, or a formula in parameters.")
    tree = parse(what).tree
    unknown = [name for name in names_in(tree) if name not in names]
    if unknown:
        raise OutsideSense("what", f"holds {unknown[0]}, which is no parameter; there are {', '.join(names)}.")
    program = Program([differentiate(tree, name) for name in names], names)
    return np.array([float(value) for value in program(*(np.float64(fit.values[name]) for name in names))])


def _rows(fit: Fit, x: Array) -> Array:
    """Gradient of the curve at each place; fixed parameters have none."""
    rows = fit.model.gradient(x, fit.values)
    free = np.array([name in fit.model.free_names for name in fit.model.parameter_names])
    return np.asarray(np.where(free & np.isfinite(rows), rows, 0.0))


def _falls(rows: Array, covariance: Array, gradient: Array) -> Array:
    """By how much the variance falls with one reading at each place."""
    toward = rows @ (covariance @ gradient)
    own = np.einsum("ij,jk,ik->i", rows, covariance, rows)
    return np.asarray(toward**2 / (1 + own))


def _sharpened(left: object, x: Array, errors: Array) -> float:
    """The place between the two neighbours of the best one where the uncertainty is least."""
    place = int(np.argmin(errors))
    low, high = x[max(place - 1, 0)], x[min(place + 1, len(x) - 1)]
    found = minimize_scalar(lambda at: float(left(np.array([at]))[0]), bounds=(low, high), method="bounded")  # type: ignore[operator]
    return float(found.x) if found.fun < errors[place] * (1 - 1e-9) else float(x[place])
