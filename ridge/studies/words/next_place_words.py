"""Where to measure next, for a parameter, a quantity of one's own or an answer, or to tell two models apart: found and worded."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ridge.core.carrying import NextReading, tell_apart, where_next
from ridge.core.errors import RidgeError
from ridge.core.fitting.effort import UNCHECKED
from ridge.core.formula import to_text
from ridge.core.numerals import capital
from ridge.core.readings import Array
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming
from ridge.core.wording.next_places import apart_sentence, narrowing_sentence, needed_sentence, resting_sentence
from ridge.exchange.cells import NotANumber, read_clock, read_number
from ridge.studies.analysis.answered import SolutionsAtY, ValueAtX
from ridge.studies.analysis.answering import answered
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.content.readings import read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_words import name_of
from ridge.studies.words.lens_schemas import NextPlaceIn, NextPlaceOut
from ridge.studies.words.own_quantities import in_parameters

GONE = "This is no longer part of the study."
NO_SCATTER = "Its uncertainty is unknown, so nothing can be said of what would narrow it."


class _Unsaid(Exception):
    """Why nothing can be said."""


def next_place(state: StudyState, wanted: NextPlaceIn) -> NextPlaceOut:
    """Where one more reading is worth most, and how many are needed; or why that cannot be said."""
    table = read_table(state)
    fitted = fit_all(table, state.linked_fits)
    try:
        between = _between(wanted, table.naming)
        kind, _, rest = wanted.of.partition(":")
        if kind == "apart":
            return _apart(fitted, rest, between, table.naming)
        one, called, found = _found(state, fitted, kind, rest, between, table.naming)
    except (_Unsaid, NotANumber, RidgeError) as problem:
        return NextPlaceOut(problem=f"{capital(str(problem)).removesuffix('.')}.")
    assert one.fit is not None
    sentences = [
        narrowing_sentence(found, table.naming, called),
        needed_sentence(found, wanted.share / 100, table.naming),
        resting_sentence(found, name_of(one), one.fit.readings),
    ]
    worth = found.now - found.standard_error
    return _out(called, found.x, worth, found.best, sentences)


def _out(called: str, x: Array, worth: Array, best: float, sentences: list[str]) -> NextPlaceOut:
    most = float(np.max(worth))
    shares = worth / most if most > 0 else np.zeros_like(worth)
    return NextPlaceOut(
        called=called, x=x.tolist(), worth=np.clip(shares, 0, 1).tolist(), best=best, sentences=sentences
    )


def _between(wanted: NextPlaceIn, naming: Naming) -> tuple[float, float] | None:
    ends = [
        read_clock(text, naming.x_clock) if naming.x_clock else read_number(text) for text in (wanted.low, wanted.high)
    ]
    if ends[0] is None and ends[1] is None:
        return None
    if ends[0] is None or ends[1] is None:
        raise _Unsaid("Give both ends of where you can measure, or none")
    if not ends[0] < ends[1]:
        raise _Unsaid("Where you can measure has to begin before it ends")
    return ends[0], ends[1]


def _found(
    state: StudyState,
    fitted: Sequence[Fitted],
    kind: str,
    rest: str,
    between: tuple[float, float] | None,
    naming: Naming,
) -> tuple[Fitted, str, NextReading]:
    if kind == "answer":
        return _of_answer(state, fitted, rest, between, naming)
    letter, _, which = rest.partition(":")
    one, fit = _fit(fitted, letter)
    if kind == "parameter" and which in fit.parameters:
        return one, naming.letter(which), where_next(fit, which, between=between)
    if kind == "own" and which.isdecimal() and int(which) < len(one.wanted.follows):
        own = one.wanted.follows[int(which)]
        return one, own.name, where_next(fit, to_text(in_parameters(own, fit, naming)), between=between)
    raise _Unsaid(GONE)


def _fit(fitted: Sequence[Fitted], letter: str) -> tuple[Fitted, Fit]:
    one = next((one for one in fitted if one.wanted.letter == letter), None)
    if one is None:
        raise _Unsaid(GONE)
    if (
        one.fit is None
        or one.fit.least_squares_in != "y"
        or one.fit.statistics.exact
        or one.fit.reading_deviation is None
    ):
        raise _Unsaid(NO_SCATTER)
    return one, one.fit


def _of_answer(
    state: StudyState, fitted: Sequence[Fitted], key: str, between: tuple[float, float] | None, naming: Naming
) -> tuple[Fitted, str, NextReading]:
    """Of y at an x, or of the nearest x at a y: its limits are those of y there, over the slope."""
    kept = next((one for one in state.answers if one.key == key), None)
    if kept is None:
        raise _Unsaid(GONE)
    found = answered(fitted, kept, state.level, naming, refits=UNCHECKED)
    match found:
        case ValueAtX():
            at, fit, called = found.x, found.fit, kept.name or naming.y
        case SolutionsAtY() if found.solutions:
            at, fit, called = float(found.solutions[0].value), found.fit, kept.name or naming.x
        case _:
            raise _Unsaid("This can be said of an answer to one x or one y of one fit")
    one = next(one for one in fitted if one.fit is fit)
    _fit(fitted, one.wanted.letter)
    return one, f"the answer for {called}", where_next(fit, at=at, between=between)


def _apart(fitted: Sequence[Fitted], letters: str, between: tuple[float, float] | None, naming: Naming) -> NextPlaceOut:
    first, _, second = letters.partition(":")
    (_, one), (_, other) = _fit(fitted, first), _fit(fitted, second)
    found = tell_apart(one, other, between=between)
    called = f"which of {first} and {second} holds"
    return _out(called, found.x, found.distance, found.best, [apart_sentence(found, naming, first, second)])
