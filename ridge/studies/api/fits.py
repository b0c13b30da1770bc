"""The API of fits: their curves, residuals, comparison, the catalogue, and the formula editor."""

from __future__ import annotations

import uuid
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Query, Router, Schema
from pydantic import FiniteFloat, StringConstraints

from ridge.core.catalogue import ENTRIES
from ridge.studies.analysis.curves import CurveOut, sample_curve
from ridge.studies.analysis.fits import fit_all
from ridge.studies.analysis.followed import Wanted
from ridge.studies.api.admission import own_study, seen_study
from ridge.studies.api.withheld import refuse_withheld
from ridge.studies.content.allowed import FORMULA_TYPED
from ridge.studies.content.attempts import attempts_of
from ridge.studies.content.fields import Row
from ridge.studies.content.readings import read_table
from ridge.studies.content.store import read_state
from ridge.studies.words.comparison_words import comparison_of, without_reading
from ridge.studies.words.fit_schemas import ActionOut
from ridge.studies.words.fit_settings import offered
from ridge.studies.words.formula_editor import known_names, look_at
from ridge.studies.words.gallery_words import candidate, ranking
from ridge.studies.words.lens_schemas import (
    ComparisonOut,
    FollowableOut,
    NextPlaceIn,
    NextPlaceOut,
    ResamplingIn,
    ResamplingOut,
    ResidualsOut,
    WithoutOut,
    WorkingIn,
    WorkingOut,
)
from ridge.studies.words.next_place_words import next_place
from ridge.studies.words.remedies import other_model
from ridge.studies.words.resampling_words import resampling_of
from ridge.studies.words.residual_words import residuals_of
from ridge.studies.words.results_offered import results_offered
from ridge.studies.words.schemas import CandidateOut, FormulaOut, KnownNameOut, Message, OfferOut, RankingOut, ResultOut
from ridge.studies.words.working_words import followables_of, working_of

router = Router(tags=["fits"])


class StretchIn(Schema):
    """A stretch of the x axis; ``growing``: whether samples are wanted denser towards zero."""

    low: FiniteFloat
    high: FiniteFloat
    growing: bool = False


@router.get("/studies/{study_id}/curves", response={200: list[CurveOut | None], 400: Message, 404: Message})
def curves(request: HttpRequest, study_id: uuid.UUID, stretch: Query[StretchIn]) -> Any:
    """Samples of every fit over what the plot shows, in the order of the fits; null for one that could not be made."""
    state = read_state(seen_study(request))
    if not stretch.low < stretch.high:
        return 400, Message(message="The stretch ends before it begins.")
    table = read_table(state)
    fitted = fit_all(table, state.linked_fits)
    return [
        sample_curve(one.curve, stretch.low, stretch.high, state.level, table.naming, stretch.growing, one.moved)
        if one.curve and not one.wanted.hidden
        else None
        for one in fitted
    ]


@router.get("/studies/{study_id}/results", response={200: list[ResultOut], 404: Message})
def results(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """Parameters, what follows from them, and answers, as another study can take them over."""
    refuse_withheld(request, "answers")
    return results_offered(read_state(seen_study(request)))


@router.get("/studies/{study_id}/residuals/{letter}", response={200: ResidualsOut, 404: Message})
def residuals(request: HttpRequest, study_id: uuid.UUID, letter: str) -> Any:
    """The residuals of a fit: five views, a table, and what they say."""
    found = residuals_of(read_state(seen_study(request)), letter)
    return found or (404, Message(message="There is no such fit, or it has no residuals: see why on the page."))


class SeriesIn(Schema):
    """The series that models are laid over; empty for all readings."""

    series: Annotated[str, StringConstraints(max_length=200)] = ""


@router.get("/catalogue", response=list[OfferOut])
def catalogue(request: HttpRequest) -> list[OfferOut]:
    """Every model and interpolation that there is, in order."""
    return [offered(entry) for entry in ENTRIES.values()]


@router.get("/studies/{study_id}/candidates/{key}", response={200: CandidateOut, 404: Message})
def one_candidate(request: HttpRequest, study_id: uuid.UUID, key: str, wanted: Query[SeriesIn]) -> Any:
    """One model of the catalogue over these readings."""
    refuse_withheld(request, "suggestions", "fit", "quality")
    state = read_state(own_study(request))
    if key not in ENTRIES:
        return 404, Message(message="The catalogue has no such model.")
    return candidate(state, ENTRIES[key], wanted.series)


@router.get("/studies/{study_id}/ranking", response={200: RankingOut, 404: Message})
def rank_candidates(request: HttpRequest, study_id: uuid.UUID, wanted: Query[SeriesIn]) -> RankingOut:
    """The order of the catalogue on these readings."""
    refuse_withheld(request, "suggestions", "fit", "quality")
    return ranking(read_state(seen_study(request)), wanted.series)


@router.get("/studies/{study_id}/comparison", response={200: ComparisonOut, 404: Message})
def comparison(request: HttpRequest, study_id: uuid.UUID) -> ComparisonOut:
    """The fits of the study side by side."""
    refuse_withheld(request, "quality")
    return comparison_of(read_state(seen_study(request)))


@router.get("/studies/{study_id}/resampling", response={200: ResamplingOut, 404: Message})
def resampling(request: HttpRequest, study_id: uuid.UUID, wanted: Query[ResamplingIn]) -> ResamplingOut:
    """The fits made to shares of the readings, the rest left out."""
    refuse_withheld(request, "quality")
    return resampling_of(read_state(seen_study(request)), wanted)


@router.get("/studies/{study_id}/without/{letter}/{row}", response={200: WithoutOut, 404: Message})
def without(request: HttpRequest, study_id: uuid.UUID, letter: str, row: Row) -> Any:
    """A fit as it would be without one of its readings; ``row`` counts from 0."""
    refuse_withheld(request, "quality")
    found = without_reading(read_state(seen_study(request)), letter, row)
    return found or (404, Message(message="There is no such fit, or that reading is not used by it."))


@router.get("/studies/{study_id}/better/{letter}", response=ActionOut | None)
def better(request: HttpRequest, study_id: uuid.UUID, letter: str) -> ActionOut | None:
    """The model of the catalogue that the readings of a fit prefer to it by more than a little, as a change; null where there is
    none."""
    refuse_withheld(request, "suggestions", "fit", "quality")
    return other_model(read_state(own_study(request)), letter)


@router.get("/studies/{study_id}/workings", response={200: list[FollowableOut], 404: Message})
def workings(request: HttpRequest, study_id: uuid.UUID) -> list[FollowableOut]:
    """What can be followed step by step in this study."""
    refuse_withheld(request, "workings")
    return followables_of(read_state(seen_study(request)))


@router.get("/studies/{study_id}/working", response={200: WorkingOut, 404: Message})
def working(request: HttpRequest, study_id: uuid.UUID, wanted: Query[WorkingIn]) -> WorkingOut:
    """One of them, its steps with their numbers."""
    study = seen_study(request)
    refuse_withheld(request, "workings", "quality", "answers", "fit")
    letter = wanted.of if wanted.what == "by-hand" and len(wanted.of) == 1 else ""
    attempts = attempts_of(study, letter) if letter else []
    return working_of(read_state(study), Wanted(**wanted.dict()), attempts)


@router.get("/studies/{study_id}/next_place", response={200: NextPlaceOut, 404: Message})
def where_to_measure_next(request: HttpRequest, study_id: uuid.UUID, wanted: Query[NextPlaceIn]) -> NextPlaceOut:
    """Where one more reading narrows a result most, or tells two models apart."""
    refuse_withheld(request, "answers", "quality", "fit")
    return next_place(read_state(seen_study(request)), wanted)


class FormulaIn(Schema):
    """A formula as it is being typed for the fit of a letter; ``part``: the place of a part to be looked at."""

    letter: Annotated[str, StringConstraints(pattern="^[A-F]$")]
    text: Annotated[str, StringConstraints(max_length=FORMULA_TYPED)]
    degrees: bool = False
    part: int | None = None


@router.post("/studies/{study_id}/formula", response={200: FormulaOut, 404: Message})
def formula(request: HttpRequest, study_id: uuid.UUID, body: FormulaIn) -> FormulaOut:
    """What a formula reads as, what is wrong with it, and a part of it on its own. Stores nothing."""
    state = read_state(own_study(request))
    return look_at(state, body.letter, body.text, body.degrees, body.part)


@router.get("/formula_names", response=list[KnownNameOut])
def formula_names(request: HttpRequest) -> list[KnownNameOut]:
    """What a formula may use."""
    return known_names()
