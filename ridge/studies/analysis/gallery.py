"""Every model of the catalogue laid over a study's readings, one by one, and then in order."""

from __future__ import annotations

import numpy as np

from ridge.core.catalogue import Entry
from ridge.core.interpolation.cautions import findings_of
from ridge.core.judging.misses import in_y, typical_miss
from ridge.core.judging.ranking import bends, order_models
from ridge.core.numerals import significant
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.interpolation import how_it_goes
from ridge.core.wording.judgement import signed_share
from ridge.core.wording.readings import word_refusal
from ridge.core.wording.suggestion import reason, word_bends, word_suggested
from ridge.studies.analysis.catalogue import CANDIDATES, fit_candidate
from ridge.studies.analysis.curves import default_view
from ridge.studies.analysis.fit_words import name_of
from ridge.studies.analysis.fits import Fitted
from ridge.studies.analysis.schemas import CandidateOut, PlaceOut, RankingOut
from ridge.studies.content.options import FitOptions
from ridge.studies.content.readings import Table, read_table
from ridge.studies.content.state import FitState, StudyState

SAMPLES = 90
MOST_FOR_ONE_POLYNOMIAL = 60
MOST_LOOKED_AT = 5000
"""Readings up to which their bends are counted."""
TOO_MANY = (
    f"One polynomial through more than {MOST_FOR_ONE_POLYNOMIAL} readings only swings. A spline does what is wanted."
)


def _refusal(one: Fitted, table: Table) -> str:
    return word_refusal(one.error, one.readings or table.readings, table.naming, name_of(one)) if one.error else ""


def candidate(state: StudyState, chosen: Entry, series: str) -> CandidateOut:
    """One model of the catalogue with its curve over the view of all readings."""
    table = read_table(state)
    through_too_many = chosen.options.get("kind") == "polynomial" and table.readings.n > MOST_FOR_ONE_POLYNOMIAL
    one = (
        Fitted(FitState("A", chosen.family, options=chosen.options), None, None, TOO_MANY)
        if through_too_many
        else fit_candidate(table, chosen, series)
    )
    out = CandidateOut(
        key=chosen.key, family=chosen.family, options=FitOptions(**chosen.options), group=chosen.group,
        name=name_of(one), refusal=one.refusal or _refusal(one, table),
    )  # fmt: skip
    if one.curve is not None:
        view = default_view(table, None, [])
        x = np.linspace(view.x.low, view.x.high, SAMPLES)
        with np.errstate(all="ignore"):
            y = one.curve.evaluate(x)
        known = np.isfinite(y)
        out.curve = [PlaceOut(x=a, y=b) for a, b in zip(x[known].tolist(), y[known].tolist(), strict=True)]
    if one.interpolation is not None:
        warnings = [word_caution(finding, table.naming).message for finding in findings_of(one.interpolation)]
        out.said = warnings[0] if len(warnings) > 1 else how_it_goes(one.interpolation)
    if one.fit is not None:
        statistics = one.fit.statistics
        s, r_squared = typical_miss(one.fit), in_y(one.fit).r_squared
        out.r_squared = "–" if r_squared is None else signed_share(r_squared)
        out.typical_miss = "–" if s is None or statistics.exact else table.naming.y_with_unit(significant(s, 3).text)
    return out


def ranking(state: StudyState, series: str) -> RankingOut:
    """The order of the catalogue on these readings, with the reason for each place in a sentence."""
    table = read_table(state)
    fitted = [fit_candidate(table, one, series) for one in CANDIDATES]
    models = [(one.model, one.fit, _refusal(one, table)) for one in fitted if one.model is not None]
    ranked = order_models(models)
    keys = {id(one.model): entry.key for entry, one in zip(CANDIDATES, fitted, strict=True)}
    suggested = [one.close and not one.patterned for one in ranked]
    names = [one.model.name for one, holds in zip(ranked, suggested, strict=True) if holds]
    readings = next((one.readings for one in fitted if one.readings is not None), table.readings)
    seen = word_bends(bends(readings), readings.n) if readings.n <= MOST_LOOKED_AT else ""
    return RankingOut(
        order=[keys[id(one.model)] for one in ranked],
        reasons=[reason(one, table.naming) for one in ranked],
        suggested=suggested,
        # Where a model holds, counting bends as polynomials do would only mislead.
        summary=word_suggested(names) if names else f"{seen} {word_suggested(names)}".strip(),
    )
