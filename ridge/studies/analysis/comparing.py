"""The fits of a study side by side, polynomials by degree, and a fit without one of its readings."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import permutations

import numpy as np

from ridge.core.errors import RidgeError
from ridge.core.judging.comparison import Nested, Row, Rung, compare, degree_ladder, nested_test, refit
from ridge.core.judging.misses import typical_miss
from ridge.core.numerals import share, significant
from ridge.core.results.fit import Fit
from ridge.core.wording.comparison import (
    CRITERIA,
    criterion_value,
    word_criterion,
    word_ladder,
    word_nested,
    word_without,
)
from ridge.core.wording.naming import Naming
from ridge.studies.analysis.curves import default_view, finite, sample_curve
from ridge.studies.analysis.fit_words import name_of
from ridge.studies.analysis.fits import Fitted, fit_all, fit_one
from ridge.studies.analysis.lens_schemas import (
    ComparedOut,
    ComparisonOut,
    CriterionOut,
    NestedOut,
    RungOut,
    ValueOut,
    WithoutOut,
)
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState

NOT_COMPARABLE = "These fits are not made to the same readings in the same way, so AICc, BIC and the F-test do not compare them. R² and typical miss are those of each curve in {y}."
NOTHING_FITTED = "Nothing is fitted here, so leaving it out moves nothing."
NO_LADDER = "With so many readings, polynomials of several degrees are not compared."
HIGHEST_DEGREE = 8
MOST_FOR_LADDER = 20_000


@dataclass(frozen=True)
class NestedPair:
    """The F-test of a fit that is a special case of another one."""

    smaller: Fitted
    larger: Fitted
    test: Nested


@dataclass(frozen=True)
class Compared:
    """Fits side by side: their criteria in the same order, whether these can be compared, F-tests, and polynomials by degree;
    None where there are too many readings for these."""

    fits: tuple[Fitted, ...]
    rows: tuple[Row, ...]
    comparable: bool
    nested: tuple[NestedPair, ...]
    ladder: tuple[Rung, ...] | None


def comparison_of(state: StudyState) -> ComparisonOut:
    """Every fit with its criteria, F-tests of those that contain one another, and polynomials by degree."""
    table = read_table(state)
    fitted = [one for one in fit_all(table, state.linked_fits) if one.fit is not None]
    return _said(compared(fitted), table.naming)


def compared(fitted: Sequence[Fitted]) -> Compared:
    rows = tuple(compare([one.fit for one in fitted if one.fit is not None]))
    few = not rows or rows[0].fit.statistics.n <= MOST_FOR_LADDER
    ladder = tuple(degree_ladder(rows[0].fit, HIGHEST_DEGREE)) if rows and few else ()
    return Compared(tuple(fitted), rows, _comparable(rows), tuple(_nested(fitted)), ladder if few else None)


def _nested(fitted: Sequence[Fitted]) -> Iterator[NestedPair]:
    for small, large in permutations(fitted, 2):
        if small.fit is not None and large.fit is not None:
            with contextlib.suppress(RidgeError):
                yield NestedPair(small, large, nested_test(small.fit, large.fit))


def _comparable(rows: Sequence[Row]) -> bool:
    """Whether all are made to the same readings, in y."""
    return all(
        np.array_equal(row.fit.readings.used, rows[0].fit.readings.used) and row.fit.least_squares_in in ("y", "given")
        for row in rows
    )


def _best(values: list[float | None], better: int) -> set[int]:
    """Places of the best value, where there are several to choose from."""
    known = [value for value in values if value is not None]
    if not better or len(known) < 2:
        return set()
    best = max(known) if better > 0 else min(known)
    return {place for place, value in enumerate(values) if value == best}


def _said(found: Compared, naming: Naming) -> ComparisonOut:
    numbers = {c.name: [criterion_value(row, c.name) for row in found.rows] for c in CRITERIA}
    best = {c.name: _best(numbers[c.name], c.better) if found.comparable else set() for c in CRITERIA}
    ladder = found.ladder or ()
    return ComparisonOut(
        criteria=[CriterionOut(name=c.name, label=c.label, meaning=c.meaning) for c in CRITERIA],
        fits=[
            ComparedOut(
                letter=one.wanted.letter,
                name=one.wanted.name or name_of(one),
                values=[
                    ValueOut(text=word_criterion(c.name, numbers[c.name][place], naming), best=place in best[c.name])
                    for c in CRITERIA
                ],
            )
            for place, one in enumerate(found.fits)
        ],
        remark="" if found.comparable else NOT_COMPARABLE.format(y=naming.y),
        nested=[
            NestedOut(
                smaller=one.smaller.wanted.letter,
                larger=one.larger.wanted.letter,
                sentence=word_nested(
                    one.test, *(f"{fit.wanted.letter} ({name_of(fit)})" for fit in (one.smaller, one.larger))
                ),
            )
            for one in found.nested
        ],
        ladder=[_rung(rung, naming) for rung in ladder],
        ladder_sentence=NO_LADDER if found.ladder is None else word_ladder(ladder, naming) if found.rows else "",
    )


def _rung(rung: Rung, naming: Naming) -> RungOut:
    error = rung.leave_one_out_error if np.isfinite(rung.leave_one_out_error) else None
    return RungOut(
        degree=rung.degree,
        r_squared=rung.r_squared,
        error=error,
        r_squared_text="–" if rung.r_squared is None else share(rung.r_squared),
        error_text="–" if error is None else naming.y_with_unit(significant(error, 3).text),
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


def without_reading(state: StudyState, letter: str, row: int) -> WithoutOut | None:
    """The curve as it would be without a reading; None where there is no such fit or reading."""
    table = read_table(state)
    wanted = next((one for one in state.linked_fits if one.letter == letter), None)
    fit = fit_one(table, wanted).fit if wanted else None
    if fit is None or not 0 <= row < len(fit.readings) or not fit.readings.used[row]:
        return None
    found = fitted_without(fit, row)
    if found.other is None:
        why = f"Without row {row + 1} there is no fit: {found.problem}" if found.problem else NOTHING_FITTED
        return WithoutOut(row=row, sentence=why, curve=None)
    view = default_view(table, fit, [])
    curve = sample_curve(found.other, view.x.low, view.x.high, state.level, table.naming)
    curve.low = curve.high = finite(np.full(len(curve.x), np.nan))
    sentence = word_without(row, found.moved, found.at, typical_miss(fit), table.naming)
    return WithoutOut(row=row, sentence=sentence, curve=curve)


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
