"""Every model of the catalogue laid over a study's readings, one by one, and then in order."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ridge.core.catalogue import Entry
from ridge.core.judging.ranking import Ranked, order_models
from ridge.core.readings import Array
from ridge.studies.analysis.catalogue import fit_candidate
from ridge.studies.analysis.curves import default_view
from ridge.studies.analysis.fits import Fitted
from ridge.studies.content.readings import Table
from ridge.studies.content.state import FitState

SAMPLES = 90
MOST_FOR_ONE_POLYNOMIAL = 60


@dataclass(frozen=True)
class Candidate:
    """A model of the catalogue laid over the readings. ``one``: its fit or why there is none; ``x`` and ``y``: its curve over
    the view of all readings, where it has values; ``too_many``: whether it was not tried on so many readings."""

    entry: Entry
    one: Fitted
    x: Array
    y: Array
    too_many: bool = False


def laid_over(table: Table, chosen: Entry, series: str) -> Candidate:
    if chosen.options.get("kind") == "polynomial" and table.readings.n > MOST_FOR_ONE_POLYNOMIAL:
        nothing = Fitted(FitState("A", chosen.family, options=chosen.options), None, None)
        return Candidate(chosen, nothing, np.empty(0), np.empty(0), too_many=True)
    one = fit_candidate(table, chosen, series)
    if one.curve is None:
        return Candidate(chosen, one, np.empty(0), np.empty(0))
    view = default_view(table, None)
    x = np.linspace(view.x.low, view.x.high, SAMPLES)
    with np.errstate(all="ignore"):
        y = one.curve.evaluate(x)
    known = np.isfinite(y)
    return Candidate(chosen, one, x[known], y[known])


@dataclass(frozen=True)
class InPlace:
    """A model in its place, with the key of its entry in the catalogue. ``holds``: near the best, and without a pattern."""

    key: str
    one: Fitted
    place: Ranked

    @property
    def holds(self) -> bool:
        return self.place.close and not self.place.patterned


def ranked_of(candidates: Sequence[Entry], fitted: Sequence[Fitted]) -> list[InPlace]:
    """The candidates with their fits, in the order in which they are of use."""
    models = [(one.model, one.fit, "") for one in fitted if one.model is not None]
    known = {id(one.model): (entry.key, one) for entry, one in zip(candidates, fitted, strict=True)}
    return [InPlace(*known[id(place.model)], place) for place in order_models(models)]
