"""The fits of a study side by side, polynomials by degree, and a fit without one of its readings."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations, permutations

import numpy as np

from ridge.core.carrying import SameCurve, same_curve
from ridge.core.errors import RidgeError
from ridge.core.judging.comparison import Nested, Row, Rung, compare, degree_ladder, nested_test, refit
from ridge.core.results.fit import Fit
from ridge.studies.analysis.fits import Fitted

HIGHEST_DEGREE = 8
MOST_FOR_LADDER = 20_000


@dataclass(frozen=True)
class NestedPair:
    """The F-test of a fit that is a special case of another one."""

    smaller: Fitted
    larger: Fitted
    test: Nested


@dataclass(frozen=True)
class AlikePair:
    """Two fits of one model to different readings, such as two series, and whether they are the same curve."""

    first: Fitted
    second: Fitted
    found: SameCurve


@dataclass(frozen=True)
class Compared:
    """Fits side by side: their criteria in the same order, whether these can be compared, F-tests, those that could be one curve, and
    polynomials by degree; None where there are too many readings for these."""

    fits: tuple[Fitted, ...]
    rows: tuple[Row, ...]
    comparable: bool
    nested: tuple[NestedPair, ...]
    alike: tuple[AlikePair, ...]
    ladder: tuple[Rung, ...] | None


def compared(fitted: Sequence[Fitted]) -> Compared:
    rows = tuple(compare([one.fit for one in fitted if one.fit is not None]))
    few = not rows or rows[0].fit.statistics.n <= MOST_FOR_LADDER
    ladder = tuple(degree_ladder(rows[0].fit, HIGHEST_DEGREE)) if rows and few else ()
    return Compared(
        tuple(fitted), rows, _comparable(rows), tuple(_nested(fitted)), tuple(_alike(fitted)), ladder if few else None
    )


def _nested(fitted: Sequence[Fitted]) -> Iterator[NestedPair]:
    for small, large in permutations(fitted, 2):
        if small.fit is not None and large.fit is not None:
            with contextlib.suppress(RidgeError):
                yield NestedPair(small, large, nested_test(small.fit, large.fit))


def _alike(fitted: Sequence[Fitted]) -> Iterator[AlikePair]:
    for first, second in combinations(fitted, 2):
        if first.fit is not None and second.fit is not None:
            with contextlib.suppress(RidgeError):
                yield AlikePair(first, second, same_curve(first.fit, second.fit))


def _comparable(rows: Sequence[Row]) -> bool:
    """Whether all are made to the same readings, in y."""
    return all(
        np.array_equal(row.fit.readings.used, rows[0].fit.readings.used) and row.fit.least_squares_in in ("y", "given")
        for row in rows
    )


@dataclass(frozen=True)
class Without:
    """A fit made anew without one reading: by how much it moves most within the measured range, and at which x. ``other`` is
    None where it could not be made, and ``problem`` says why; both are None where nothing is fitted."""

    fit: Fit
    other: Fit | None = None
    problem: RidgeError | None = None
    moved: float = 0.0
    at: float = 0.0


def fitted_without(fit: Fit, row: int) -> Without:
    if fit.least_squares_in == "given":
        return Without(fit)
    included = fit.readings.included.copy()
    included[row] = False
    try:
        other = refit(fit, included)
    except RidgeError as problem:
        return Without(fit, problem=problem)
    x = np.linspace(*fit.readings.measured_range, 121)
    with np.errstate(all="ignore"):
        moved = np.abs(other.evaluate(x) - fit.evaluate(x))
    most = int(np.nanargmax(moved)) if np.isfinite(moved).any() else 0
    return Without(fit, other, moved=float(moved[most]), at=float(x[most]))
