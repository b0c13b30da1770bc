"""What a plot shows while a hand moves something: curves, residuals and marks, without a word about them, so that it can follow."""

from __future__ import annotations

import numpy as np

from ridge.core.fitting.effort import UNCHECKED
from ridge.core.judging.misses import seen_residuals
from ridge.core.readings import Array, Mask
from ridge.studies.analysis.curves import StretchOut, drawn, finite, sample_curve
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.content.readings import Table, read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.answers import answer, answer_unknown
from ridge.studies.words.fit_schemas import MovingFitOut
from ridge.studies.words.fit_words import differ, equation_of, grips_of, handles_of, how_near
from ridge.studies.words.schemas import AnswerOut, MovedAnswerOut, MovedRowOut, MovingOut

MOST_ROWS = 200
"""Rows that move at once up to which they are told one by one."""


def moving(before: StudyState, after: StudyState, stretch: StretchOut) -> MovingOut | None:
    """What is drawn after a change, the curves over a ``stretch`` of x; None where more changes than can be told so: then the whole
    analysis is asked for."""
    table, old = read_table(after), read_table(before)
    rows = _moved_rows(old, table)
    fitted = fit_all(table, after.linked_fits)
    if rows is None or [fit.letter for fit in before.fits] != [fit.letter for fit in after.fits]:
        return None
    if any(one.curve is None for one in fitted):
        return None
    level, naming = after.level, table.naming
    answers = [answer(fitted, kept, level, naming, refits=UNCHECKED) for kept in after.answers]
    unknowns = [answer_unknown(fitted, unknown, level, naming, refits=UNCHECKED).answer for unknown in table.unknowns]
    return MovingOut(
        rows=rows,
        fits=[_fit(one, fitted[0], table, stretch, after) for one in fitted],
        answers=[_answer(one) for one in answers],
        unknowns=[_answer(one) for one in unknowns],
    )


def _moved_rows(old: Table, new: Table) -> list[MovedRowOut] | None:
    """The rows that are no longer where they were; None where there are too many, or others than before."""
    was, now = old.readings, new.readings
    if len(was) != len(now) or old.column_problems != new.column_problems:
        return None
    if (was.y_error is None) != (now.y_error is None) or (was.x_error is None) != (now.x_error is None):
        return None
    places = ("x", "y", "x_error", "y_error")
    other = old.status != new.status
    for name in places:
        other = other | _differs(getattr(was, name), getattr(now, name))
    moved = np.flatnonzero(other)
    if len(moved) > MOST_ROWS:
        return None
    told = {name: getattr(now, name) for name in places}
    values = {name: [None] * len(moved) if column is None else finite(column[moved]) for name, column in told.items()}
    return [
        MovedRowOut(row=row, status=int(new.status[row]), **{name: values[name][place] for name in places})
        for place, row in enumerate(moved.tolist())
    ]


def _differs(one: Array | None, other: Array | None) -> Mask | bool:
    if one is None or other is None:
        return False
    return np.asarray((one != other) & ~(np.isnan(one) & np.isnan(other)))


def _fit(one: Fitted, leading: Fitted, table: Table, stretch: StretchOut, state: StudyState) -> MovingFitOut:
    assert one.curve is not None
    curve = (
        None
        if one.wanted.hidden
        else sample_curve(one.curve, stretch.low, stretch.high, state.level, table.naming, moved=one.moved)
    )
    if one.fit is None:
        return MovingFitOut(letter=one.wanted.letter, curve=curve)
    by_hand = one.kind == "hand"
    return MovingFitOut(
        letter=one.wanted.letter, curve=curve, residuals=drawn(seen_residuals(one.fit)), **how_near(one.fit, table.naming),
        handles=handles_of(one, table, equation_of(one, one.fit, table.naming), state.course) if by_hand else None,
        grips=grips_of(one) if by_hand else None, difference=differ(one, leading, table.naming),
    )  # fmt: skip


def _answer(one: AnswerOut) -> MovedAnswerOut:
    return MovedAnswerOut(key=one.key, mark=one.mark, short=one.short, marks=[row.mark for row in one.rows])
