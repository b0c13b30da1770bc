"""From a state to everything the screen says about it. Computed, never stored; remembered by content."""

from __future__ import annotations

import logging
import math
from uuid import UUID

import numpy as np

from ridge.core.wording.numbers import group
from ridge.core.wording.straight import straighten
from ridge.studies.answers import answer, answer_unknown, follow
from ridge.studies.curves import default_view, finite, sample_curve
from ridge.studies.fit_words import differ, word_fitted
from ridge.studies.fits import FAILED, Fitted, fit_all
from ridge.studies.models import Study
from ridge.studies.readings import Status, Table, read_table
from ridge.studies.recent import Recent
from ridge.studies.schemas import AnalysisOut, NamingOut, ProblemOut, StraightOut, StretchOut
from ridge.studies.state import StudyState

PROBLEMS_SHOWN = 50
log = logging.getLogger(__name__)


def analyse(state: StudyState, *, same_readings: bool = False, preview: bool = False) -> AnalysisOut:
    """The whole analysis of a state. Should it fail in a way that was not foreseen, the readings can still be opened.

    ``same_readings``: whoever asks has the readings already, and they are left out. ``preview``: it is shown only while a
    hand moves, and limits are not held against refits.
    """
    table = read_table(state)
    try:
        found = _analyse(state, table, fit_all(table, state.fits), checked=not preview)
    except Exception:
        log.exception("the analysis failed")
        found = _analyse(state, table, [Fitted(wanted, None, None, FAILED) for wanted in state.fits], checked=False)
    return _with_readings(found, table) if not same_readings else found


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


def _analyse(state: StudyState, table: Table, fitted: list[Fitted], *, checked: bool) -> AnalysisOut:
    naming, readings = table.naming, table.readings
    fits = [word_fitted(one, table, state, checked=checked) for one in fitted]
    leading = fitted[0].fit if fitted else None
    answers = [follow(answer(fitted, kept, state.level, naming, checked=checked), kept) for kept in state.answers]
    unknowns = [answer_unknown(fitted, unknown, state.level, naming, checked=checked) for unknown in table.unknowns]
    view = default_view(table, leading, [*answers, *(unknown.answer for unknown in unknowns)])
    for one, out in zip(fitted, fits, strict=True):
        if one.curve is not None and not out.hidden:
            out.curve = sample_curve(one.curve, view.x.low, view.x.high, state.level)
            out.difference = differ(one, fitted[0], naming)
    low, high = readings.measured_range
    straight = straighten(leading, naming) if leading else "There is no fit yet."
    return AnalysisOut(
        naming=NamingOut(**{name: getattr(naming, name) for name in NamingOut.model_fields}),
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
        problems=[ProblemOut(row=p.row, column=p.column, message=p.message) for p in table.problems[:PROBLEMS_SHOWN]],
        problems_more=max(0, len(table.problems) - PROBLEMS_SHOWN),
        measured=StretchOut(low=low, high=high) if math.isfinite(low) else None,
        before_fit=table.before_fit,
        view=view,
        fits=fits,
        answers=answers,
        unknowns=unknowns,
    )


def _repeated(table: Table) -> list[int]:
    """Rows in use whose x another row in use shares, a thousand at most."""
    rows = np.flatnonzero(table.status == Status.USED)
    _, inverse, counts = np.unique(table.readings.x[rows], return_inverse=True, return_counts=True)
    return rows[counts[inverse] > 1][:1000].tolist()  # type: ignore[no-any-return]


def _summary(table: Table) -> str:
    parts = [f"{group(str(table.count(Status.USED)))} used"]
    if aside := table.count(Status.ASIDE):
        parts.append(f"{group(str(aside))} set aside")
    if unknown := table.count(Status.UNKNOWN):
        parts.append(f"{group(str(unknown))} unknown")
    if assumed := int((table.readings.assumed & (table.status == Status.USED)).sum()):
        parts.append(f"{group(str(assumed))} assumed")
    if table.problems:
        parts.append(f"{group(str(len(table.problems)))} left out")
    return " · ".join(parts)


_recent: Recent[tuple[UUID, int], AnalysisOut] = Recent(8)


def analysis_of(study: Study, state: StudyState) -> AnalysisOut:
    """The analysis of a stored state, computed once."""
    return _recent.get_or_make((study.pk, study.version), lambda: analyse(state))
