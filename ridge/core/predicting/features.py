"""Features of a fitted curve: roots, turning points, inflexions, tangents, area, crossings; each with its uncertainty.

Standard errors by the delta method from the curve's own variance: what the readings leave open about the curve, not the
scatter of new readings. Limits of a place hold every x at which what defines it (the value, the slope, the bend, the
difference of two curves) could be zero: see ``band_edge``; for the zero of a line these are Fieller's.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from ridge.core.errors import OutsideSense
from ridge.core.models import Line
from ridge.core.predicting.band_edge import COARSE, Outside, band_edges, outside_band
from ridge.core.predicting.beyond import distance_beyond, in_ranges
from ridge.core.predicting.crossings import find_crossings, search_grid
from ridge.core.predicting.curve_at_y import STRETCHES, default_interval
from ridge.core.predicting.in_common import rows_in_common, weights_of
from ridge.core.predicting.line_at_y import solve_line
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

_PANELS, _NODES = 64, 10


@dataclass(frozen=True)
class Place:
    """A feature at an x. ``kind``: root, maximum, minimum, inflexion or crossing.

    ``x_error`` and ``y_error``: standard errors, None where the scatter is unknown; the limits are then infinite, as they
    are on a side where nothing bounds them. ``beyond``: distance outside the measured range, and the same in measured ranges.
    """

    kind: str
    x: float
    x_error: float | None
    y: float
    y_error: float | None
    x_low: float
    x_high: float
    y_low: float
    y_high: float
    beyond: float
    beyond_ranges: float


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
    return _bounded(fit, [_place(fit, "root", x, 0, fit.curve.slope(np.array([x]))[0], level) for x in found], 0, level)


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
    return _bounded(fit, places, 1, level)


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
    return _bounded(fit, places, 2, level)


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
    fitted = [one for one in (first, second) if one.least_squares_in != "given"]
    widths = [width for one in fitted if (width := one.critical_value(level)) is not None]
    width = max(widths) if widths and len(widths) == len(fitted) else None
    places = []
    grid = search_grid(low, high, cycles)
    for x in find_crossings(lambda at: first.curve.value(at) - second.curve.value(at), grid, _level(first)):
        at = np.array([x])
        slope = float(first.curve.slope(at)[0])
        steep = slope - float(second.curve.slope(at)[0])
        error = _error_of_sum(first, second, at, 1.0, -1.0)
        # The place moves with both curves, and the value on the first one with the place.
        share = slope / steep if steep else 0.0
        error_of_x = None if error is None or not steep else abs(float(error[0]) / steep)
        error_of_y = _error_of_sum(first, second, at, 1 - share, share)
        places.append(
            _placed(first, "crossing", x, error_of_x, None if error_of_y is None else float(error_of_y[0]), width)
        )
    if width is None or any(place.x_error is None for place in places):
        return places
    outside = partial(_outside_both, first, second, width)
    return _limited(places, lambda some: _edges(first, [one.x for one in some], _errors(some), outside), width)


def _outside_both(first: Fit, second: Fit, width: float, x: Array) -> Array:
    """Positive where two curves differ at x."""
    error = _error_of_sum(first, second, x, 1.0, -1.0)
    assert error is not None
    with np.errstate(all="ignore"):
        return outside_band(first.curve.value(x) - second.curve.value(x), width * error)


def _error_of_sum(first: Fit, second: Fit, at: Array, times: float, times_other: float) -> Array | None:
    """Standard errors of a linear combination of the values of two curves, in the shape of ``at``."""
    # A curve with given numbers has no scatter of its own.
    given = [one.least_squares_in == "given" for one in (first, second)]
    one, other = (0.0 if known else of.reading_deviation for known, of in zip(given, (first, second), strict=True))
    if one is None or other is None or all(given):
        return None
    row, other_row = first.curve.rows(at), second.curve.rows(at)
    shared = np.zeros(at.shape)
    common = rows_in_common(first, second)
    if common is not None and common.any():
        x = first.readings.x[common]
        weights = np.sqrt(weights_of(first, common) * weights_of(second, common))[:, None]
        between = (first.curve.rows(x) * weights).T @ second.curve.rows(x)
        shared = np.sum((row @ between) * other_row, axis=-1)
    smaller = min(one, other)
    variance = (
        (times * one) ** 2 * np.sum(row**2, axis=-1)
        + (times_other * other) ** 2 * np.sum(other_row**2, axis=-1)
        + 2 * times * times_other * smaller**2 * shared
    )
    return np.asarray(np.sqrt(np.maximum(variance, 0.0)))


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
    deviation = None if fit.least_squares_in == "given" else fit.reading_deviation
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
    if error is not None:
        error = float(abs(error / decides)) if decides else np.inf
    at_y = _scaled(fit, _length_there(fit, x, order, decides))
    return _placed(fit, kind, x, error, at_y, fit.critical_value(level))


def _placed(fit: Fit, kind: str, x: float, x_error: float | None, y_error: float | None, width: float | None) -> Place:
    """A place on the curve of ``fit``, its x without limits yet; ``width``: half-width of those of y in standard errors."""
    y = float(fit.curve.value(np.array([x]))[0])
    half = np.inf if y_error is None or width is None else width * y_error
    beyond = float(distance_beyond(fit.readings, x))
    ranges = float(in_ranges(fit.readings, beyond))
    return Place(kind, x, x_error, y, y_error, -np.inf, np.inf, y - half, y + half, beyond, ranges)


def limits_of_zeros(
    fit: Fit, roots: Sequence[float], order: int, errors: Sequence[float], level: float
) -> tuple[Array, Array]:
    """Return the limits of each x at which the curve (order 0), its slope (1) or its bend (2) is zero, both of shape (k,).

    For a line Fieller's; otherwise see ``band_edge``. Infinite where the scatter is unknown. ``errors``: standard errors.
    """
    deviation, width = fit.reading_deviation, fit.critical_value(level)
    nowhere = np.full(len(roots), np.inf)
    if deviation is None or width is None:
        return -nowhere, nowhere
    if isinstance(fit.model, Line) and order == 0:
        found = solve_line(fit, np.longdouble(0.0), np.inf, level)
        return np.full(len(roots), found.low), np.full(len(roots), found.high)
    value = (fit.curve.value, fit.curve.slope, fit.curve.bend)[order]

    def outside(at: Array) -> Array:
        with np.errstate(all="ignore"):
            row = fit.curve.rows(at, order)
            return outside_band(value(at), width * deviation * np.sqrt(np.sum(row**2, axis=-1)))

    return _edges(fit, roots, errors, outside)


def _edges(fit: Fit, roots: Sequence[float], errors: Sequence[float], outside: Outside) -> tuple[Array, Array]:
    low, high = default_interval(fit, STRETCHES[-1])
    lower = band_edges(outside, roots, np.minimum(low, roots), errors, -1.0, COARSE)
    return lower, band_edges(outside, roots, np.maximum(high, roots), errors, 1.0, COARSE)


MOST_LIMITED = 24
"""Places, the nearest to the readings, whose limits invert the band; those farther out have them by the standard error."""


def _bounded(fit: Fit, places: Sequence[Place], order: int, level: float) -> list[Place]:
    """The places with the limits of x where the derivative of this order is zero."""

    def found(some: Sequence[Place]) -> tuple[Array, Array]:
        return limits_of_zeros(fit, [one.x for one in some], order, _errors(some), level)

    return _limited(places, found, fit.critical_value(level))


def _limited(
    places: Sequence[Place], limits: Callable[[Sequence[Place]], tuple[Array, Array]], width: float | None
) -> list[Place]:
    nearest = sorted(places, key=lambda one: one.beyond)[:MOST_LIMITED]
    lows, highs = limits(nearest)
    found = {one.x: ends for one, *ends in zip(nearest, lows.tolist(), highs.tolist(), strict=True)}
    for one in places:
        half = np.inf if one.x_error is None or width is None else width * one.x_error
        found.setdefault(one.x, [one.x - half, one.x + half])
    return [replace(one, x_low=found[one.x][0], x_high=found[one.x][1]) for one in places]


def _errors(places: Sequence[Place]) -> list[float]:
    return [np.nan if one.x_error is None else one.x_error for one in places]


def _quantity(fit: Fit, value: float, length: float, level: float) -> Quantity:
    error = _scaled(fit, length)
    width = fit.critical_value(level)
    if error is None or width is None:
        return Quantity(value, None, -np.inf, np.inf)
    return Quantity(value, error, value - width * error, value + width * error)
