"""The models that Ridge offers to try on readings, and the one that they prefer."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ridge.core.catalogue import MODELS, Entry
from ridge.core.judging.ranking import CLOSE, order_models
from ridge.studies.analysis.fits import Fitted, fit_one
from ridge.studies.content.course import Course
from ridge.studies.content.readings import Table
from ridge.studies.content.state import FitState

MOST_TRIED = 2000
"""Readings up to which the catalogue is tried for a remedy."""


CANDIDATES = tuple(entry for entry in MODELS if entry.form.tried)


def fit_candidate(table: Table, candidate: Entry, series: str, x_range: tuple[float, float] | None = None) -> Fitted:
    return fit_one(table, FitState("A", candidate.family, options=candidate.options, series=series, x_range=x_range))


def on_offer(course: Course | None) -> tuple[Entry, ...]:
    """Those that are tried, as far as a course has them."""
    return CANDIDATES if course is None else tuple(entry for entry in CANDIDATES if course.offers(entry.key))


def better_model(one: Fitted, table: Table, candidates: Sequence[Entry]) -> Fitted | None:
    """The candidate that these readings prefer to a fit by more than a little, with no pattern in its residuals if
    there is such a one; None where there is none, or too many readings to try them all while someone waits."""
    fit = one.fit
    if fit is None or fit.least_squares_in != "y" or fit.statistics.aicc is None or fit.statistics.n > MOST_TRIED:
        return None
    fitted = [fit_candidate(table, candidate, one.wanted.series, one.wanted.x_range) for candidate in candidates]
    by_model = {id(other.model): other for other in fitted}
    ranked = [
        other
        for other in order_models([(other.model, other.fit, "") for other in fitted if other.model is not None])
        if other.fit is not None
        and not other.no_better_than_constant
        and not other.surpassed
        and other.difference is not None
    ]
    better = [
        other
        for other in ranked
        if other.fit is not None and (other.fit.statistics.aicc or np.inf) < fit.statistics.aicc - CLOSE
    ]
    best = next((other for other in better if not other.patterned), better[0] if better else None)
    return by_model[id(best.model)] if best is not None else None
