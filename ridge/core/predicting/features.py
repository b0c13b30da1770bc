"""Features of a fitted curve: roots, turning points, inflexions, tangents, area, crossings; each with its uncertainty.

Standard errors by the delta method from the curve's own variance: what the readings leave open about the curve, not
the scatter of new readings. Where the slope (or bend) that decides a place is small, they are large and honest.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ridge.core.errors import OutsideSense
from ridge.core.predicting.beyond import distance_beyond, in_ranges
from ridge.core.predicting.crossings import find_crossings, search_grid
from ridge.core.predicting.curve_at_y import default_interval
from ridge.core.predicting.in_common import rows_in_common, weights_of
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.results.statistics import critical_value

_PANELS, _NODES = 64, 10


@dataclass(frozen=True)
class Place:
    """A feature at an x. ``kind``: root, maximum, minimum, inflexion or crossing.

    ``x_error`` and ``y_error``: standard errors, None where the scatter is unknown; ``width``: half-width of the confidence
    limits in standard errors. ``beyond``: distance outside the measured range, and the same in measured ranges.
    """

    kind: str
    x: float
    x_error: float | None
    y: float
    y_error: float | None
    width: float | None
    beyond: float
    beyond_ranges: float

    @property
    def x_half(self) -> float | None:
        """Half-width of the confidence limits of x."""
        return None if self.x_error is None or self.width is None else self.x_error * self.width

    @property
    def y_half(self) -> float | None:
        """Half-width of the confidence limits of y."""
        return None if self.y_error is None or self.width is None else self.y_error * self.width


@dataclass(frozen=True)
class Quantity:
    """A number with its standard error (None where the scatter is unknown) and confidence limits."""

    value: float
    standard_error: float | None
    low: float
    high: float


@dataclass(frozen=True)
class Tangent:
    """y = value + slope·(x − x0) touches the curve at x0."""

    x: float
    value: Quantity
    slope: Quantity


def roots(fit: Fit, interval: tuple[float, float] | None = None, level: float = 0.95) -> list[Place]:
    """Where the curve is zero.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> from ridge.core.predicting.features import roots
    >>> line = fit(Readings([1, 2, 3, 4], [-1.1, 0.9, 3.2, 4.8]), Line())
    >>> [round(place.x, 2) for place in roots(line)]
    [1.52]
    """
    low, high = _stretch(fit, interval)
    found = find_crossings(fit.curve.value, _grid(fit, low, high), _level(fit))
    return [_place(fit, "root", x, 0, fit.curve.slope(np.array([x]))[0], level) for x in found]


def turning_points(fit: Fit, interval: tuple[float, float] | None = None, level: float = 0.95) -> list[Place]:
    """Where the curve has a highest or lowest value: slope zero, bend not.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Polynomial
    >>> bowl = fit(Readings([0, 1, 2, 3, 4, 5], [4.1, 1.0, 0.1, 0.9, 4.2, 8.9]), Polynomial(2))
    >>> from ridge.core.predicting.features import turning_points
    >>> [(place.kind, round(place.x, 2), round(place.x_error, 2)) for place in turning_points(bowl)]
    [('minimum', 2.01, 0.02)]
    """
    low, high = _stretch(fit, interval)
    places = []
    for x in find_crossings(fit.curve.slope, _grid(fit, low, high), _level(fit) / (high - low)):
        bend = float(fit.curve.bend(np.array([x]))[0])
        if bend:
            places.append(_place(fit, "minimum" if bend > 0 else "maximum", x, 1, bend, level))
    return places


def inflexions(fit: Fit, interval: tuple[float, float] | None = None, level: float = 0.95) -> list[Place]:
    """Where the curve changes from bending one way to the other.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Polynomial
    >>> from ridge.core.predicting.features import inflexions
    >>> cubic = fit(Readings([-2, -1, 0, 1, 2, 3], [-7.9, -1.1, 0.1, 0.9, 8.1, 27.0]), Polynomial(3))
    >>> [round(place.x, 2) for place in inflexions(cubic)]
    [-0.01]
    """
    low, high = _stretch(fit, interval)
    step = (high - low) * 1e-6
    places = []
    for x in find_crossings(fit.curve.bend, _grid(fit, low, high), _level(fit) / (high - low) / (high - low)):
        before, after = fit.curve.bend(np.array([x - step, x + step]))
        if before * after < 0:
            places.append(_place(fit, "inflexion", x, 2, (after - before) / (2 * step), level))
    return places


def tangent(fit: Fit, x: float, level: float = 0.95) -> Tangent:
    """Value and slope of the curve at x, with limits at ``level``. Raises OutsideSense where x is not finite.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Polynomial
    >>> bowl = fit(Readings([0, 1, 2, 3, 4, 5], [4.1, 1.0, 0.1, 0.9, 4.2, 8.9]), Polynomial(2))
    >>> from ridge.core.predicting.features import tangent
    >>> round(tangent(bowl, 4).slope.value, 2)
    3.97
    """
    if not np.isfinite(x):
        raise OutsideSense("x", "must be a finite number.")
    at = np.array([float(x)])
    return Tangent(
        float(x),
        _quantity(fit, float(fit.curve.value(at)[0]), _length(fit, x, 0), level),
        _quantity(fit, float(fit.curve.slope(at)[0]), _length(fit, x, 1), level),
    )


def area(fit: Fit, low: float, high: float, level: float = 0.95) -> Quantity:
    """Area under the curve from ``low`` to ``high``, negative below the axis and where low is above high.

    By Gauss and Legendre's rule on 64 panels; its variance from the same integral of the curve's directions.
    Raises OutsideSense for ends that are not finite or a stretch on which the curve is not defined.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Line
    >>> line = fit(Readings([1, 2, 3, 4, 5], [2.1, 3.9, 6.2, 7.8, 10.1]), Line())
    >>> from ridge.core.predicting.features import area
    >>> round(area(line, 0, 2).value, 2)
    4.08
    """
    if not (np.isfinite(low) and np.isfinite(high)):
        raise OutsideSense("area", "its ends must be finite numbers.")
    nodes, weights = np.polynomial.legendre.leggauss(_NODES)
    edges = np.linspace(low, high, _PANELS + 1)
    half = np.diff(edges) / 2
    x = ((edges[:-1] + edges[1:]) / 2)[:, None] + half[:, None] * nodes[None, :]
    share = (half[:, None] * weights[None, :]).ravel()
    values = fit.curve.value(x.ravel())
    if not np.all(np.isfinite(values)):
        raise OutsideSense("area", "the curve is not defined on all of that stretch.")
    direction = share @ fit.curve.rows(x.ravel())
    return _quantity(fit, float(share @ values), float(np.sqrt(direction @ direction)), level)


def crossings(first: Fit, second: Fit, interval: tuple[float, float] | None = None, level: float = 0.95) -> list[Place]:
    """Where two fits take the same value.

    Readings that both are fitted to, by their values, give them a scatter in common, which is allowed for; others count as
    independent. The limits take the wider of the two fits' quantiles.

    >>> from ridge.core import Readings, fit
    >>> from ridge.core.models import Polynomial
    >>> bowl = fit(Readings([0, 1, 2, 3, 4, 5], [4.1, 1.0, 0.1, 0.9, 4.2, 8.9]), Polynomial(2))
    >>> from ridge.core.models import Line
    >>> from ridge.core.predicting.features import crossings
    >>> [round(place.x, 2) for place in crossings(bowl, fit(bowl.readings, Line()))]
    [0.79, 4.21]
    """
    low, high = _stretch(first, interval)
    cycles = max(first.model.cycles(first.values, low, high), second.model.cycles(second.values, low, high))
    widths = [width for one in (first, second) if (width := one.critical_value(level)) is not None]
    width = max(widths) if len(widths) == 2 else None
    places = []
    grid = search_grid(low, high, cycles)
    for x in find_crossings(lambda at: first.curve.value(at) - second.curve.value(at), grid, _level(first)):
        at = np.array([x])
        slope = float(first.curve.slope(at)[0])
        steep = slope - float(second.curve.slope(at)[0])
        error = _error_of_sum(first, second, at, 1.0, -1.0)
        # The place moves with both curves, and the value on the first one with the place.
        share = slope / steep if steep else 0.0
        beyond = float(distance_beyond(first.readings, x))
        places.append(
            Place(
                "crossing", x, None if error is None or not steep else abs(error / steep),
                float(first.curve.value(at)[0]), _error_of_sum(first, second, at, 1 - share, share),
                width, beyond, float(in_ranges(first.readings, beyond)),
            )
        )  # fmt: skip
    return places


def _error_of_sum(first: Fit, second: Fit, at: Array, times: float, times_other: float) -> float | None:
    """Standard error of so many times the value of the first curve and of the second, added up."""
    one, other = first.reading_deviation, second.reading_deviation
    if one is None or other is None:
        return None
    row, other_row = first.curve.rows(at)[0], second.curve.rows(at)[0]
    shared = 0.0
    common = rows_in_common(first, second)
    if common is not None and common.any():
        x = first.readings.x[common]
        weights = np.sqrt(weights_of(first, common) * weights_of(second, common))[:, None]
        shared = float(row @ (first.curve.rows(x) * weights).T @ second.curve.rows(x) @ other_row)
    smaller = min(one, other)
    variance = (
        (times * one) ** 2 * (row @ row)
        + (times_other * other) ** 2 * (other_row @ other_row)
        + 2 * times * times_other * smaller**2 * shared
    )
    return float(np.sqrt(max(variance, 0.0)))


def _stretch(fit: Fit, interval: tuple[float, float] | None) -> tuple[float, float]:
    if interval is None:
        return default_interval(fit)
    low, high = interval
    if not (np.isfinite(low) and np.isfinite(high) and low < high):
        raise OutsideSense("interval", "its first value must be smaller than its second, both finite.")
    return float(low), float(high)


def _grid(fit: Fit, low: float, high: float) -> Array:
    return search_grid(low, high, fit.model.cycles(fit.values, low, high))


def _level(fit: Fit) -> float:
    """Variation of y that is only rounding."""
    return 1e-12 * float(np.max(np.abs(fit.readings.y[fit.readings.used]), initial=0.0))


def _length(fit: Fit, x: float, order: int) -> float:
    row = fit.curve.rows(np.array([x]), order)[0]
    with np.errstate(over="ignore"):  # beyond all numbers it is infinite, and decides nothing
        return float(np.sqrt(row @ row))


def _scaled(fit: Fit, length: float) -> float | None:
    deviation = fit.reading_deviation
    return None if deviation is None else deviation * length


def _length_there(fit: Fit, x: float, order: int, decides: float) -> float:
    """That of the curve's value at a place that moves with the parameters: where it rises, it changes with x too."""
    at = np.array([x])
    slope = float(fit.curve.slope(at)[0])
    if not decides or order == 0:
        return _length(fit, x, 0)
    with np.errstate(all="ignore"):  # beyond all numbers is no error worth a number
        row = fit.curve.rows(at, 0)[0] - slope / decides * fit.curve.rows(at, order)[0]
        return float(np.sqrt(row @ row))


def _place(fit: Fit, kind: str, x: float, order: int, decides: float, level: float) -> Place:
    """``order``: of the derivative that is zero there; ``decides``: the next one."""
    error = _scaled(fit, _length(fit, x, order))
    beyond = float(distance_beyond(fit.readings, x))
    return Place(
        kind, x, None if error is None else float(abs(error / decides)) if decides else np.inf,
        float(fit.curve.value(np.array([x]))[0]), _scaled(fit, _length_there(fit, x, order, decides)),
        fit.critical_value(level), beyond, float(in_ranges(fit.readings, beyond)),
    )  # fmt: skip


def _quantity(fit: Fit, value: float, length: float, level: float) -> Quantity:
    error = _scaled(fit, length)
    width = critical_value(level, fit.statistics.degrees_of_freedom, fit.readings.absolute_errors)
    if error is None or width is None:
        return Quantity(value, None, -np.inf, np.inf)
    return Quantity(value, error, value - width * error, value + width * error)
