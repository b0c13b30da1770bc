"""Every model of the catalogue laid over a study's readings, one by one, and then in order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.catalogue import Entry
from ridge.core.interpolation.cautions import findings_of
from ridge.core.judging.misses import in_y, typical_miss
from ridge.core.judging.ranking import Ranked, bends, order_models
from ridge.core.numerals import significant
from ridge.core.readings import Array
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


@dataclass(frozen=True)
class Candidate:
    """A model of the catalogue laid over the readings. ``one``: its fit or why there is none; ``x`` and ``y``: its curve over
    the view of all readings, where it has values; ``too_many``: whether it was not tried on so many readings."""

    entry: Entry
    one: Fitted
    x: Array
    y: Array
    too_many: bool = False


def candidate(state: StudyState, chosen: Entry, series: str) -> CandidateOut:
    """One model of the catalogue with its curve over the view of all readings."""
    table = read_table(state)
    return _said(laid_over(table, chosen, series), table)


def laid_over(table: Table, chosen: Entry, series: str) -> Candidate:
    if chosen.options.get("kind") == "polynomial" and table.readings.n > MOST_FOR_ONE_POLYNOMIAL:
        nothing = Fitted(FitState("A", chosen.family, options=chosen.options), None, None)
        return Candidate(chosen, nothing, np.empty(0), np.empty(0), too_many=True)
    one = fit_candidate(table, chosen, series)
    if one.curve is None:
        return Candidate(chosen, one, np.empty(0), np.empty(0))
    view = default_view(table, None, [])
    x = np.linspace(view.x.low, view.x.high, SAMPLES)
    with np.errstate(all="ignore"):
        y = one.curve.evaluate(x)
    known = np.isfinite(y)
    return Candidate(chosen, one, x[known], y[known])


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
        out.r_squared = "–" if r_squared is None else signed_share(r_squared)
        out.typical_miss = "–" if s is None or one.fit.statistics.exact else naming.y_with_unit(significant(s, 3).text)
    return out


def _refusal(one: Fitted, table: Table) -> str:
    return word_refusal(one.error, one.readings or table.readings, table.naming, name_of(one)) if one.error else ""


@dataclass(frozen=True)
class InPlace:
    """A model in its place, with the key of its entry in the catalogue. ``holds``: near the best, and without a pattern."""

    key: str
    place: Ranked

    @property
    def holds(self) -> bool:
        return self.place.close and not self.place.patterned


def ranking(state: StudyState, series: str) -> RankingOut:
    """The order of the catalogue on these readings, with the reason for each place in a sentence."""
    table = read_table(state)
    fitted = [fit_candidate(table, one, series) for one in CANDIDATES]
    ranked = ranked_of(fitted, table)
    readings = next((one.readings for one in fitted if one.readings is not None), table.readings)
    names = [one.place.model.name for one in ranked if one.holds]
    seen = word_bends(bends(readings), readings.n) if readings.n <= MOST_LOOKED_AT else ""
    return RankingOut(
        order=[one.key for one in ranked],
        reasons=[reason(one.place, table.naming) for one in ranked],
        suggested=[one.holds for one in ranked],
        # Where a model holds, counting bends as polynomials do would only mislead.
        summary=word_suggested(names) if names else f"{seen} {word_suggested(names)}".strip(),
    )


def ranked_of(fitted: Sequence[Fitted], table: Table) -> list[InPlace]:
    """The candidates, given in the order of the catalogue, in the order in which they are of use."""
    models = [(one.model, one.fit, _refusal(one, table)) for one in fitted if one.model is not None]
    keys = {id(one.model): entry.key for entry, one in zip(CANDIDATES, fitted, strict=True)}
    return [InPlace(keys[id(one.model)], one) for one in order_models(models)]
