"""Answers of a study as they are shown: those that are kept, and those of the unknowns among the rows."""

from __future__ import annotations

import re
from collections.abc import Sequence

from ridge.core.fitting.effort import QUESTION
from ridge.core.numerals import name_rows, number_as_given, significant
from ridge.core.wording.limits import value_in_limits
from ridge.core.wording.naming import Naming
from ridge.studies.analysis.answered import is_unchecked
from ridge.studies.analysis.answering import answered
from ridge.studies.analysis.fits import Fitted
from ridge.studies.content.readings import Unknown
from ridge.studies.content.state import AnswerState, Question
from ridge.studies.words.answer_words import said, unanswered, word_answer
from ridge.studies.words.schemas import AnswerOut, UnknownOut


def answer(
    fitted: Sequence[Fitted],
    question: Question | AnswerState,
    level: float,
    naming: Naming,
    numbers: Sequence[float] | None = None,
    *,
    refits: float = QUESTION,
) -> AnswerOut:
    """One question answered in words and numbers, or the reason why it cannot be; the arguments are those of ``answered``."""
    found = answered(fitted, question, level, naming, numbers, refits=refits)
    out = word_answer(question, found, level, naming)
    out.refining = is_unchecked(found)
    return out


def follow(out: AnswerOut, kept: AnswerState) -> AnswerOut:
    """Add what a saved answer said when it was saved, where it says something else now; the decimal sign makes no difference."""
    changed = kept.was and _in_points(kept.was) != _in_points(said(out))
    return out.model_copy(update={"was": kept.was}) if changed else out


def _in_points(text: str) -> str:
    return re.sub(r"(?<=\d),(?=\d)", ".", text)


def _question(unknown: Unknown) -> Question:
    given = "; ".join(number_as_given(value) for value in unknown.values)
    return Question("x_at_y", given, repeats=len(unknown.values), key=f"rows-{unknown.rows[0]}")


def _label(unknown: Unknown) -> str:
    rows = name_rows(unknown.rows)
    return f"{unknown.label} ({rows})" if unknown.label else rows.capitalize()


def unknown_unanswered(unknown: Unknown, naming: Naming, problem: str) -> UnknownOut:
    """An unknown with what is in the way of its x."""
    return UnknownOut(
        rows=list(unknown.rows), label=_label(unknown), short="", answer=unanswered(_question(unknown), naming, problem)
    )


def answer_unknown(
    fitted: Sequence[Fitted], unknown: Unknown, level: float, naming: Naming, *, refits: float = QUESTION
) -> UnknownOut:
    """x of an unknown from its row, or from the rows of its repeated readings."""
    out = answer(fitted, _question(unknown), level, naming, unknown.values, refits=refits)
    short = ""
    if out.mark:
        low, high = out.mark.x_low, out.mark.x_high
        if low is not None and high is not None and low < high:
            short = value_in_limits(out.mark.x, low, high).text
        else:
            short = significant(out.mark.x, 4).text
    return UnknownOut(rows=list(unknown.rows), label=_label(unknown), short=short, answer=out)
