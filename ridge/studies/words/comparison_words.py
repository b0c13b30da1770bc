"""What the Compare lens says, and what moves without one of the readings."""

from __future__ import annotations

import numpy as np

from ridge.core.judging.comparison import Rung
from ridge.core.judging.misses import typical_miss
from ridge.core.numerals import share, significant
from ridge.core.wording.comparison import (
    CRITERIA,
    criterion_value,
    word_criterion,
    word_ladder,
    word_nested,
    word_same_curve,
    word_without,
)
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.rounding import round_with_uncertainty
from ridge.studies.analysis.comparing import AlikePair, Compared, compared, fitted_without
from ridge.studies.analysis.curves import default_view, finite, sample_curve
from ridge.studies.analysis.fits import Fitted, fit_all, fit_one
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_words import name_of
from ridge.studies.words.lens_schemas import (
    AlikeOut,
    AlikeRowOut,
    ComparedOut,
    ComparisonOut,
    CriterionOut,
    NestedOut,
    RungOut,
    ValueOut,
    WithoutOut,
)

NOT_COMPARABLE = "These fits are not made to the same readings in the same way, so AICc, BIC and the F-test do not compare them. R² and typical miss are those of each curve in {y}."
NOTHING_FITTED = "Nothing is fitted here, so leaving it out moves nothing."
NO_LADDER = "With so many readings, polynomials of several degrees are not compared."


def comparison_of(state: StudyState) -> ComparisonOut:
    """Every fit with its criteria, F-tests of those that contain one another, and polynomials by degree."""
    table = read_table(state)
    fitted = [one for one in fit_all(table, state.linked_fits) if one.fit is not None]
    return _said(compared(fitted), table.naming)


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
        alike=[_alike(pair, naming) for pair in found.alike],
        ladder=[_rung(rung, naming) for rung in ladder],
        ladder_sentence=NO_LADDER if found.ladder is None else word_ladder(ladder, naming) if found.rows else "",
    )


def _alike(pair: AlikePair, naming: Naming) -> AlikeOut:
    first, second = pair.first.wanted.letter, pair.second.wanted.letter
    rows = [
        AlikeRowOut(
            symbol=naming.letter(name),
            first=_value(pair.first, name, naming),
            second=_value(pair.second, name, naming),
            says=agreement.message,
        )
        for name, agreement in pair.found.parameters.items()
    ]
    return AlikeOut(first=first, second=second, sentence=word_same_curve(pair.found, first, second), rows=rows)


def _value(one: Fitted, name: str, naming: Naming) -> str:
    assert one.fit is not None
    parameter = one.fit.parameters[name]
    text = round_with_uncertainty(parameter.value, parameter.standard_error).text
    return with_unit(text, naming.parameter_units(one.fit.model)[name])


def _rung(rung: Rung, naming: Naming) -> RungOut:
    error = rung.leave_one_out_error if np.isfinite(rung.leave_one_out_error) else None
    return RungOut(
        degree=rung.degree,
        r_squared=rung.r_squared,
        error=error,
        r_squared_text="–" if rung.r_squared is None else share(rung.r_squared),
        error_text="–" if error is None else naming.y_with_unit(significant(error, 3).text),
    )


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
    view = default_view(table, fit)
    curve = sample_curve(found.other, view.x.low, view.x.high, state.level, table.naming)
    curve.low = curve.high = finite(np.full(len(curve.x), np.nan))
    sentence = word_without(row, found.moved, found.at, typical_miss(fit), table.naming)
    return WithoutOut(row=row, sentence=sentence, curve=curve)
