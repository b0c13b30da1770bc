"""The fits of a study side by side, polynomials by degree, and a fit without one of its readings."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ridge.core.errors import RidgeError
from ridge.core.judging.comparison import Row, compare, degree_ladder, nested_test, refit
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
from ridge.studies.analysis.curves import default_view, finite, sample_curve
from ridge.studies.analysis.fit_words import name_of
from ridge.studies.analysis.fits import fit_all, fit_one
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
HIGHEST_DEGREE = 8
MOST_FOR_LADDER = 20_000


def comparison_of(state: StudyState) -> ComparisonOut:
    """Every fit with its criteria, F-tests of those that contain one another, and polynomials by degree."""
    table = read_table(state)
    naming = table.naming
    fitted = [one for one in fit_all(table, state.linked_fits) if one.fit is not None]
    rows = compare([one.fit for one in fitted if one.fit is not None])
    numbers = {c.name: [criterion_value(row, c.name) for row in rows] for c in CRITERIA}
    comparable = _comparable(rows)
    best = {c.name: _best(numbers[c.name], c.better) if comparable else set() for c in CRITERIA}
    compared = [
        ComparedOut(
            letter=one.wanted.letter,
            name=one.wanted.name or name_of(one),
            values=[
                ValueOut(text=word_criterion(c.name, numbers[c.name][place], naming), best=place in best[c.name])
                for c in CRITERIA
            ],
        )
        for place, one in enumerate(fitted)
    ]
    nested = []
    for small in fitted:
        for large in fitted:
            if small is large or small.fit is None or large.fit is None:
                continue
            try:
                test = nested_test(small.fit, large.fit)
            except RidgeError:
                continue
            names = [f"{one.wanted.letter} ({name_of(one)})" for one in (small, large)]
            nested.append(
                NestedOut(smaller=small.wanted.letter, larger=large.wanted.letter, sentence=word_nested(test, *names))
            )
    remark = "" if comparable else NOT_COMPARABLE.format(y=naming.y)
    ladder, sentence = _ladder(rows[0].fit, state) if rows else ([], "")
    return ComparisonOut(
        criteria=[CriterionOut(name=c.name, label=c.label, meaning=c.meaning) for c in CRITERIA],
        fits=compared,
        remark=remark,
        nested=nested,
        ladder=ladder,
        ladder_sentence=sentence,
    )


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


def _ladder(fit: Fit, state: StudyState) -> tuple[list[RungOut], str]:
    if fit.statistics.n > MOST_FOR_LADDER:
        return [], "With so many readings, polynomials of several degrees are not compared."
    naming = read_table(state).naming
    rungs = degree_ladder(fit, HIGHEST_DEGREE)
    out = [
        RungOut(
            degree=rung.degree,
            r_squared=rung.r_squared,
            error=rung.leave_one_out_error if np.isfinite(rung.leave_one_out_error) else None,
            r_squared_text="–" if rung.r_squared is None else share(rung.r_squared),
            error_text=naming.y_with_unit(significant(rung.leave_one_out_error, 3).text)
            if np.isfinite(rung.leave_one_out_error)
            else "–",
        )
        for rung in rungs
    ]
    return out, word_ladder(rungs, naming)


def without_reading(state: StudyState, letter: str, row: int) -> WithoutOut | None:
    """The curve as it would be without a reading; None where there is no such fit or reading."""
    table = read_table(state)
    wanted = next((one for one in state.linked_fits if one.letter == letter), None)
    fit = fit_one(table, wanted).fit if wanted else None
    if fit is None or not 0 <= row < len(fit.readings) or not fit.readings.used[row]:
        return None
    if fit.least_squares_in == "given":
        return WithoutOut(row=row, sentence="Nothing is fitted here, so leaving it out moves nothing.", curve=None)
    included = fit.readings.included.copy()
    included[row] = False
    view = default_view(table, fit, [])
    try:
        other = refit(fit, included)
    except RidgeError as problem:
        return WithoutOut(row=row, sentence=f"Without row {row + 1} there is no fit: {problem}", curve=None)
    x = np.linspace(*fit.readings.measured_range, 121)
    with np.errstate(all="ignore"):
        moved = np.abs(other.evaluate(x) - fit.evaluate(x))
    most = int(np.nanargmax(moved)) if np.isfinite(moved).any() else 0
    sentence = word_without(row, float(moved[most]), float(x[most]), typical_miss(fit), table.naming)
    curve = sample_curve(other, view.x.low, view.x.high, state.level, table.naming)
    curve.low = curve.high = finite(np.full(len(curve.x), np.nan))
    return WithoutOut(row=row, sentence=sentence, curve=curve)
