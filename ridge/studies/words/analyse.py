"""From a state to everything the screen says about it. Computed, never stored; remembered by content."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import partial

import numpy as np

from ridge.core.fitting.effort import QUESTION
from ridge.core.numerals import group, name_rows
from ridge.core.wording.headings import over
from ridge.core.wording.naming import Naming
from ridge.core.wording.straight import Straight, straighten
from ridge.studies.analysis.curves import StretchOut, ViewOut, default_view, finite, sample_curve
from ridge.studies.analysis.fits import Fitted, fit_all
from ridge.studies.apart import FAILED, Failures
from ridge.studies.content.readings import CellProblem, Status, Table, read_table
from ridge.studies.content.state import AnswerState, StudyState, content_of
from ridge.studies.recent import Recent
from ridge.studies.words.answer_marks import seen_at
from ridge.studies.words.answer_words import unanswered
from ridge.studies.words.answers import answer, answer_unknown, follow, unknown_unanswered
from ridge.studies.words.fit_schemas import ComputedFit, FitOut, HandFit, KnownFit, RefusedFit
from ridge.studies.words.fit_words import differ, failed, word_fitted
from ridge.studies.words.own_quantities import own_quantities
from ridge.studies.words.remedies import keep_to_course
from ridge.studies.words.schemas import AnalysisOut, AnswerOut, NamingOut, ProblemOut, StraightOut, UnknownOut

PROBLEMS_SHOWN = 50
_EMPTY_VIEW = ViewOut(x=StretchOut(low=0, high=10), y=StretchOut(low=0, high=10), residual=1.0)


def analyse(state: StudyState, *, same_readings: bool = False, refits: float = QUESTION) -> AnalysisOut:
    """The whole analysis of a state. What fails in a way that was not foreseen is named in its ``failures``; all the rest
    is there.

    ``same_readings``: whoever asks has the readings already, and they are left out. ``refits``: what those may cost that limits are
    held against; where less than a whole question may and that does not do, it says that it is ``refining``.
    """
    table, failures = read_table(state), Failures()
    failures += table.failures
    found = failures.apart(
        "the analysis",
        lambda: _analyse(state, table, failures, refits=refits),
        lambda: _bare(state, table),
    )
    found.failures = list(dict.fromkeys(failures))
    found.refining = refits < QUESTION and _is_refining(found)
    return _with_readings(found, table) if not same_readings else found


def _is_refining(found: AnalysisOut) -> bool:
    answers = [*found.answers, *(one.answer for one in found.unknowns)]
    return any(isinstance(one, ComputedFit) and one.refining for one in found.fits) or any(
        one.refining for one in answers
    )


def _bare(state: StudyState, table: Table) -> AnalysisOut:
    """What is left to be said where the analysis as a whole failed: the readings, and that every fit is refused."""
    fits: list[FitOut] = [failed(Fitted(wanted, None, None, FAILED)) for wanted in state.fits]
    return _out(table, fits, [], [], _EMPTY_VIEW, FAILED)


def _with_readings(found: AnalysisOut, table: Table) -> AnalysisOut:
    readings = table.readings
    found.same_readings = False
    found.status = table.status.tolist()
    found.x, found.y = finite(readings.x), finite(readings.y)
    found.x_error = None if readings.x_error is None else finite(readings.x_error)
    found.y_error = None if readings.y_error is None else finite(readings.y_error)
    found.series_of = table.series.indices.tolist() if table.series else None
    found.repeated_x = _repeated(table)
    return found


def without_readings(found: AnalysisOut) -> AnalysisOut:
    """The same for whoever has the readings already."""
    none: dict[str, object] = {
        "status": [],
        "x": [],
        "y": [],
        "x_error": None,
        "y_error": None,
        "series_of": None,
        "repeated_x": [],
    }
    return found.model_copy(update={**none, "same_readings": True})


def _analyse(state: StudyState, table: Table, failures: Failures, *, refits: float) -> AnalysisOut:
    naming, level = table.naming, state.level
    fitted = fit_all(table, state.linked_fits)
    failures += [_fit_called(one) for one in fitted if one.by_accident]
    fits = [
        failures.apart(
            _fit_called(one),
            partial(word_fitted, one, table, state, refits=refits),
            partial(failed, replace(one, refusal=FAILED)),
        )
        for one in fitted
    ]
    leading = fitted[0].fit if fitted else None
    answers = [
        failures.apart(
            f"the answer to {kept.given or kept.direction.replace('_', ' ')}",
            partial(_answer_kept, fitted, kept, level, naming, refits=refits),
            partial(unanswered, kept, naming, FAILED),
        )
        for kept in state.answers
    ]
    unknowns = [
        failures.apart(
            name_rows(unknown.rows),
            partial(answer_unknown, fitted, unknown, level, naming, refits=refits),
            partial(unknown_unanswered, unknown, naming, FAILED),
        )
        for unknown in table.unknowns
    ]
    view = failures.apart(
        "the view",
        lambda: default_view(table, leading, seen_at([*answers, *(unknown.answer for unknown in unknowns)])),
        lambda: _EMPTY_VIEW,
    )
    if state.course is not None:
        keep_to_course(fits, state)
    for one, out in zip(fitted, fits, strict=True):
        if isinstance(out, ComputedFit):
            out.derived += failures.apart(
                f"what follows from {_fit_called(one)}",
                partial(own_quantities, one, fitted, table, state, level),
                lambda: [],
            )
        failures.apart(
            f"the curve of {_fit_called(one)}",
            partial(_draw, one, out, fitted[0], view, level, naming),
            lambda: None,
        )
    straight = failures.apart(
        "straightening", lambda: straighten(leading, naming) if leading else "There is no fit yet.", lambda: FAILED
    )
    return _out(table, fits, answers, unknowns, view, straight)


def _problem(one: CellProblem) -> ProblemOut:
    return ProblemOut(row=one.row, column=one.column, message=one.message, incomplete=one.incomplete)


def _fit_called(one: Fitted) -> str:
    return f"fit {one.wanted.letter}"


def _answer_kept(fitted: list[Fitted], kept: AnswerState, level: float, naming: Naming, *, refits: float) -> AnswerOut:
    return follow(answer(fitted, kept, level, naming, refits=refits), kept)


def _draw(one: Fitted, out: FitOut, leading: Fitted, view: ViewOut, level: float, naming: Naming) -> None:
    """Put the curve of a fit that can be seen, and its difference from the leading one, into what is said of it."""
    if one.curve is None or out.hidden or isinstance(out, RefusedFit):
        return
    out.curve = sample_curve(one.curve, view.x.low, view.x.high, level, naming, moved=one.moved)
    if isinstance(out, HandFit | KnownFit):
        out.difference = differ(one, leading, naming)


def _out(
    table: Table,
    fits: list[FitOut],
    answers: list[AnswerOut],
    unknowns: list[UnknownOut],
    view: ViewOut,
    straight: Straight | str,
) -> AnalysisOut:
    naming = table.naming
    low, high = table.readings.measured_range
    return AnalysisOut(
        naming=NamingOut(
            x=naming.x,
            y=naming.y,
            x_unit=naming.x_unit,
            y_unit=naming.y_unit,
            x_name=naming.x_name,
            y_name=naming.y_name,
            x_over=over(naming.x_unit),
            y_over=over(naming.y_unit),
            x_clock=naming.x_clock,
            y_clock=naming.y_clock,
        ),
        same_readings=True,
        status=[],
        x=[],
        y=[],
        y_error=None,
        x_error=None,
        series=list(table.series.names) if table.series else [],
        series_of=None,
        repeated_x=[],
        straight=None if isinstance(straight, str) else StraightOut(**vars(straight)),
        straight_refusal=straight if isinstance(straight, str) else "",
        summary=_summary(table),
        problems=[_problem(one) for one in table.problems[:PROBLEMS_SHOWN]],
        problems_more=max(0, len(table.problems) - PROBLEMS_SHOWN),
        measured=StretchOut(low=low, high=high) if math.isfinite(low) else None,
        before_fit=table.before_fit,
        view=view,
        fits=fits,
        answers=answers,
        unknowns=unknowns,
        failures=[],
        refining=False,
    )


def _repeated(table: Table) -> list[int]:
    """Rows in use whose x another row in use shares, a thousand at most."""
    rows = np.flatnonzero(table.status == Status.USED)
    _, inverse, counts = np.unique(table.readings.x[rows], return_inverse=True, return_counts=True)
    return rows[counts[inverse] > 1][:1000].tolist()  # type: ignore[no-any-return]


def _summary(table: Table) -> str:
    parts = [f"{group(str(table.count(Status.USED)))} used"]
    if aside := table.count(Status.ASIDE) + table.count(Status.UNKNOWN_ASIDE):
        parts.append(f"{group(str(aside))} set aside")
    if unknown := table.count(Status.UNKNOWN):
        parts.append(f"{group(str(unknown))} unknown")
    if assumed := int((table.readings.assumed & (table.status == Status.USED)).sum()):
        parts.append(f"{group(str(assumed))} assumed")
    incomplete = sum(problem.incomplete for problem in table.problems)
    if incomplete:
        parts.append(f"{group(str(incomplete))} incomplete")
    if unusable := len(table.problems) - incomplete:
        parts.append(f"{group(str(unusable))} unusable")
    return " · ".join(parts)


OF_AN_ANALYSIS = 2000
"""Readings that weigh as much in the memory as all else of an analysis."""
_recent: Recent[tuple[bytes, float], AnalysisOut] = Recent(
    300_000, worded=True
)  # readings: an analysis of 100 000 holds some 15 MB


def analysis_of(state: StudyState, refits: float = QUESTION) -> AnalysisOut:
    """The analysis of a state, computed once for all studies of this content; what failed is tried again."""
    return _recent.get_or_make(
        (content_of(state), refits),
        lambda: analyse(state, refits=refits),
        worth=lambda found: not found.failures,
        weight=OF_AN_ANALYSIS + state.row_count,
    )
