"""x at a y from any curve: every solution, near and far, with limits."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np

from ridge.core.formula import Program, parse
from ridge.core.predicting.band_edge import band_edges, outside_band
from ridge.core.predicting.crossings import find_crossings, search_grid
from ridge.core.predicting.repeats import Scatter
from ridge.core.predicting.solution import MOST, Solution, place
from ridge.core.readings import Array
from ridge.core.results.fit import Fit

REACH = 3.0
"""How many measured ranges beyond the readings features are looked for, unless an interval is given."""
STRETCHES = (REACH, 8.0, 20.0, 50.0, 140.0, 370.0, 1000.0)
"""How many measured ranges beyond the readings x is looked for, one stretch after the other."""
FARTHEST = 1e300
LOOKED_AT = 401
"""Places looked at in each stretch but the first."""
DECADES, A_DECADE = 290, 4
"""How many powers of ten beyond the stretches x is looked for where they show none, and places looked at in each."""


def default_interval(fit: Fit, reach: float = REACH) -> tuple[float, float]:
    """The measured range and ``reach`` times its width on either side."""
    low, high = fit.readings.measured_range
    width = (high - low) or abs(high) or 1.0
    with np.errstate(over="ignore"):
        return max(low - reach * width, -FARTHEST), min(high + reach * width, FARTHEST)


def solve_curve(
    fit: Fit,
    target: float,
    repeats: int,
    level: float,
    interval: tuple[float, float] | None,
    scatter: Scatter | None = None,
) -> list[Solution]:
    """Every x at which the curve takes the value ``target``, the mean of ``repeats`` readings; the nearest to the readings first.

    By closed form where the model has one, however far; otherwise within three measured ranges of the readings on a fine grid and
    stretch by stretch beyond, to a thousand ranges, and if there is none in growing steps from there; a sinusoid, which takes a value again and again, within three ranges.

    Standard error by the delta method, √(s²/repeats + variance of the curve)/|slope|. The limits hold the x
    at which a new mean of so many readings could well be ``target``: |curve(x) − target| ≤ t·√(s²/repeats + variance
    of the curve at x), around the solution (for a line these are Fieller's limits; Draper and Smith, section 3.2).
    A side that runs on for a thousand ranges is infinite; one that comes to where the curve has no value ends there.
    """
    inverse = _Inverse(fit, target, repeats, scatter or Scatter(fit.reading_deviation, fit.critical_value(level)))
    farthest = default_interval(fit, STRETCHES[-1])
    if interval is not None:
        farthest = min(interval[0], farthest[0]), max(interval[1], farthest[1])
        roots = [x for x in inverse.roots(farthest) if interval[0] <= x <= interval[1]]
    else:
        roots = inverse.roots(farthest)
    measured = fit.readings.measured_range
    roots = sorted(roots, key=lambda x: max(measured[0] - x, x - measured[1], 0.0))[:MOST]
    errors = [inverse.standard_error(root) for root in roots]
    # What a closed form finds may lie farther out than anybody looks for limits of the others.
    search = [
        (min(farthest[0], root - REACH * abs(root)), max(farthest[1], root + REACH * abs(root))) for root in roots
    ]
    limits = inverse.limits(roots, search, errors)
    solutions = [place(fit, root, error, *ends, level) for root, error, ends in zip(roots, errors, limits, strict=True)]
    solutions += _touches(inverse, solutions, interval, farthest, level)
    return sorted(solutions, key=lambda solution: (solution.beyond, solution.value))


def _touches(
    inverse: _Inverse,
    solutions: list[Solution],
    interval: tuple[float, float] | None,
    farthest: tuple[float, float],
    level: float,
) -> list[Solution]:
    """Places where the curve turns just short of the value, so near that it lies within the band: a reading taken there has it
    as easily as not. Those within the limits of a solution are not told again."""
    fit = inverse.fit
    low, high = interval or default_interval(fit)
    if inverse.width is None or not fit.model.bends or fit.log_line is not None:
        return []
    y = fit.readings.y[fit.readings.used]
    rounding = 1e-12 * float(np.max(np.abs(y), initial=0.0)) / (high - low)
    turns = find_crossings(fit.curve.slope, search_grid(low, high, fit.model.cycles(fit.values, low, high)), rounding)[
        :MOST
    ]
    found: list[Solution] = []
    held = inverse.holds(np.array(turns)) if turns else []
    near = [
        x
        for x, within in zip(turns, held, strict=True)
        if within and not any(one.low <= x <= one.high for one in solutions)
    ]
    limits = inverse.limits(near, [farthest] * len(near), [None] * len(near))
    for x, ends in zip(near, limits, strict=True):
        if not any(one.low <= x <= one.high for one in found):
            found.append(replace(place(fit, x, np.inf, *ends, level), touches=True))
    return found


class _Inverse:
    """The band of the curve, seen from one y."""

    def __init__(self, fit: Fit, target: float, repeats: int, scatter: Scatter) -> None:
        self.fit, self.target, self.repeats = fit, target, repeats
        self.width, self.deviation = scatter.width, scatter.deviation
        if self.deviation is None:
            self.width = None

    def off(self, x: Array) -> Array:
        return self.fit.curve.value(x) - self.target

    def roots(self, farthest: tuple[float, float]) -> list[float]:
        """Where the curve takes the value, in rising order."""
        known = self._closed_form()
        if known is not None:
            return sorted(known)
        low, high = default_interval(self.fit)
        low, high = max(low, farthest[0]), min(high, farthest[1])
        grids = [search_grid(low, high, self.fit.model.cycles(self.fit.values, low, high))]
        if not self.fit.model.periodic:
            ends = [default_interval(self.fit, reach) for reach in STRETCHES]
            for (inner_low, inner_high), (outer_low, outer_high) in pairwise(ends):
                grids += [
                    np.linspace(outer_low, inner_low, LOOKED_AT),
                    np.linspace(inner_high, outer_high, LOOKED_AT),
                ]
        y = self.fit.readings.y[self.fit.readings.used]
        touching = 1e-12 * float(np.max(np.abs(y), initial=0.0))
        found = sorted(x for grid in grids for x in find_crossings(self.off, grid, touching))
        if not found and not self.fit.model.periodic:
            found = self._far_out(ends[-1], touching)
        # Two crossings within rounding of each other are one touch.
        return [x for i, x in enumerate(found) if not i or x - found[i - 1] > 1e-12 * max(high - low, abs(x))]

    def _far_out(self, ends: tuple[float, float], touching: float) -> list[float]:
        """Where the tails of the curve take the value, in steps that grow: a logarithm rises for ever, but slowly."""
        reach = (ends[1] - ends[0]) / 2
        with np.errstate(all="ignore"):
            steps = reach * np.logspace(0, DECADES, DECADES * A_DECADE + 1)
        found: list[float] = []
        for end, side in ((ends[0], -1.0), (ends[1], 1.0)):
            with np.errstate(over="ignore"):
                grid = np.sort(end + side * steps)
            found += find_crossings(self.off, grid[np.isfinite(grid) & (np.abs(grid) <= FARTHEST)], touching)
        return sorted(found)

    def _closed_form(self) -> list[float] | None:
        """By the model's own inverse; None where it has none."""
        model = self.fit.model
        if not model.inverses:
            return None
        names = ("y", *model.parameter_names)
        values = [np.float64(self.target), *(np.float64(self.fit.values[name]) for name in model.parameter_names)]
        trees = [parse(text, "y").tree for text in model.inverses]
        with np.errstate(all="ignore"):
            found = np.array([float(x) for x in Program(trees, names)(*values)])
            found = np.unique(found[np.isfinite(found)])
            off = np.abs(self.off(found)) if len(found) else found
        y = self.fit.readings.y[self.fit.readings.used]
        size = max(abs(self.target), float(np.max(np.abs(y), initial=0.0)))
        return [self._polished(x) for x in found[off <= 1e-6 * size].tolist()]

    def _polished(self, x: float) -> float:
        """The last digits, by Newton's steps on the curve as it is computed."""
        for _ in range(3):
            with np.errstate(all="ignore"):
                step = float(self.off(np.array([x]))[0] / self.fit.curve.slope(np.array([x]))[0])
            if not np.isfinite(step) or abs(step) > 1e-6 * abs(x):
                break
            x -= step
        return x

    def error_of_y(self, x: Array) -> Array:
        """Standard deviation of curve minus mean of the new readings; in logarithms the scatter grows with y."""
        assert self.deviation is not None
        sizes = 1.0 if self.fit.log_line is None else np.square(self.fit.curve.value(x))
        own = float(self.fit.readings.new_reading(self.target)) if self.fit.log_line is None else 1.0
        variance = sizes * own**2 / self.repeats + self.fit.curve.unit_variance(x)
        return self.deviation * np.sqrt(variance)

    def holds(self, x: Array) -> list[bool]:
        """Whether the target lies within the band at each x."""
        return (self._outside(x) < 0).tolist()  # type: ignore[no-any-return]

    def standard_error(self, x: float) -> float | None:
        if self.deviation is None or self.width is None:
            return None
        with np.errstate(all="ignore"):
            slope = float(self.fit.curve.slope(np.array([x]))[0])
            error = float(self.error_of_y(np.array([x]))[0]) / abs(slope) if slope else np.inf
        return error if np.isfinite(error) else np.inf

    def _outside(self, x: Array) -> Array:
        """Positive where the target is not within the band at x; NaN where the curve has no value."""
        assert self.width is not None
        with np.errstate(all="ignore"):
            return outside_band(self.off(x), self.width * self.error_of_y(x))

    def limits(
        self, roots: list[float], search: list[tuple[float, float]], errors: list[float | None]
    ) -> list[tuple[float, float]]:
        """Return where the band, or the curve itself, ends on both sides of each root; infinite where neither does in the range searched."""
        if not roots or self.width is None:
            return [(-np.inf, np.inf)] * len(roots)
        known = [np.nan if error is None else error for error in errors]
        sides = (
            band_edges(self._outside, roots, [ends[place] for ends in search], known, sign)
            for place, sign in ((0, -1.0), (1, 1.0))
        )
        return list(zip(*(side.tolist() for side in sides), strict=True))
