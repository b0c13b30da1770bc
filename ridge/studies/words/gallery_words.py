"""What the gallery of models says of each, and of their order."""

from __future__ import annotations

from dataclasses import replace

from ridge.core.catalogue import Entry
from ridge.core.interpolation.cautions import findings_of
from ridge.core.judging.misses import in_y, typical_miss
from ridge.core.judging.ranking import bends
from ridge.core.numerals import share, significant
from ridge.core.wording.cautions import word_caution
from ridge.core.wording.interpolation import how_it_goes
from ridge.core.wording.readings import word_refusal
from ridge.core.wording.suggestion import reason, word_bends, word_suggested
from ridge.studies.analysis.catalogue import fit_candidate, on_offer
from ridge.studies.analysis.fits import Fitted
from ridge.studies.analysis.gallery import MOST_FOR_ONE_POLYNOMIAL, Candidate, laid_over, ranked_of
from ridge.studies.content.options import FitOptions
from ridge.studies.content.readings import Table, read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_words import name_of
from ridge.studies.words.schemas import CandidateOut, PlaceOut, RankingOut

MOST_LOOKED_AT = 5000
"""Readings up to which their bends are counted."""
TOO_MANY = (
    f"One polynomial through more than {MOST_FOR_ONE_POLYNOMIAL} readings only swings. A spline does what is wanted."
)


def candidate(state: StudyState, chosen: Entry, series: str) -> CandidateOut:
    """One model of the catalogue with its curve over the view of all readings."""
    table = read_table(state)
    return _said(laid_over(table, chosen, series), table)


def _said(found: Candidate, table: Table) -> CandidateOut:
    entry, one, naming = found.entry, found.one, table.naming
    out = CandidateOut(
        key=entry.key, family=entry.family, options=FitOptions(**entry.options), group=entry.group, name=name_of(one),
        refusal=TOO_MANY if found.too_many else one.refusal or _refusal(one, table),
        curve=[PlaceOut(x=x, y=y) for x, y in zip(found.x.tolist(), found.y.tolist(), strict=True)],
    )  # fmt: skip
    if one.interpolation is not None:
        warnings = [word_caution(finding, naming).message for finding in findings_of(one.interpolation)]
        out.said = warnings[0] if len(warnings) > 1 else how_it_goes(one.interpolation)
    if one.fit is not None:
        s, r_squared = typical_miss(one.fit), in_y(one.fit).r_squared
        out.r_squared = "–" if r_squared is None else share(r_squared)
        out.typical_miss = "–" if s is None or one.fit.statistics.exact else naming.y_with_unit(significant(s, 3).text)
    return out


def _refusal(one: Fitted, table: Table) -> str:
    return word_refusal(one.error, one.readings or table.readings, table.naming, name_of(one)) if one.error else ""


def ranking(state: StudyState, series: str) -> RankingOut:
    """The order of the catalogue on these readings, with the reason for each place in a sentence."""
    table = read_table(state)
    candidates = on_offer(state.course)
    fitted = [fit_candidate(table, one, series) for one in candidates]
    ranked = ranked_of(candidates, fitted)
    readings = next((one.readings for one in fitted if one.readings is not None), table.readings)
    names = [one.place.model.name for one in ranked if one.holds]
    seen = word_bends(bends(readings), readings.n) if readings.n <= MOST_LOOKED_AT else ""
    said = word_suggested(names, few=any(one.place.leave_one_out is not None for one in ranked))
    return RankingOut(
        order=[one.key for one in ranked],
        reasons=[reason(replace(one.place, refusal=_refusal(one.one, table))) for one in ranked],
        suggested=[one.holds for one in ranked],
        # Where a model holds, counting bends as polynomials do would only mislead.
        summary=said if names else f"{seen} {said}".strip(),
    )
