"""The API of studies. One request a gesture; every query goes through the owner."""

from __future__ import annotations

import uuid
from dataclasses import replace
from functools import partial
from operator import ne
from typing import Annotated, Any

import orjson
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import BaseModel, Field, FiniteFloat, StringConstraints

from ridge.accounts.guests import current_user, user_or_new_guest
from ridge.accounts.sign_of_user import choose, offered
from ridge.core.decimal_sign import Sign, decimal_sign, in_sign
from ridge.core.fitting.effort import QUICK, UNCHECKED
from ridge.core.interpolation import Interpolation
from ridge.core.results.fit import Fit
from ridge.core.wording.headings import over
from ridge.pictures import PictureRefused
from ridge.studies.analysis.calculated import calculate
from ridge.studies.analysis.curves import StretchOut
from ridge.studies.analysis.fits import fit_all, fit_one
from ridge.studies.api.admission import only_looks, own_study, seen_study
from ridge.studies.api.shelf import card
from ridge.studies.api.withheld import WORDS, check_withheld, refuse_withheld, withheld_from, without_withheld
from ridge.studies.content.begin import begin_with_table
from ridge.studies.content.changes import AnyChange, ChangeRefused
from ridge.studies.content.changes.plot import PlotSettings
from ridge.studies.content.changes.tables import TakeTable
from ridge.studies.content.fields import Asked, Direction, Row, Version
from ridge.studies.content.kept_pictures import kept
from ridge.studies.content.readable import apply_sound
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.repeated import made_by
from ridge.studies.content.runs import is_read
from ridge.studies.content.samples import SAMPLES, build_sample, picture_in
from ridge.studies.content.sign_in_readings import sign_in
from ridge.studies.content.state import ColumnState, Question, StudyState, empty_study
from ridge.studies.content.store import (
    NothingToStep,
    StaleVersion,
    commit,
    create_study,
    delete,
    empty_bin,
    go_to,
    read_state,
    restore,
    step,
    step_labels,
)
from ridge.studies.models import Study
from ridge.studies.words.analyse import analyse, analysis_of, without_readings
from ridge.studies.words.answers import answer
from ridge.studies.words.moving import moving
from ridge.studies.words.picture_words import picture_of
from ridge.studies.words.reading_details import describe_reading
from ridge.studies.words.schemas import (
    AnalysisOut,
    AnswerOut,
    AsideOut,
    AssumedOut,
    CardOut,
    CellPatchOut,
    ColumnOut,
    ConflictOut,
    EntryOut,
    HistoryOut,
    Message,
    MovingOut,
    NoValueOut,
    ReadingOut,
    SampleOut,
    ShelfOut,
    StepOut,
    StudyOut,
)

router = Router(tags=["studies"])
HISTORY_SHOWN = 200
CONFLICT = "This study was changed in another window. Here is the newer state; your last change was not made."


def study_out(
    request: HttpRequest, study: Study, state: StudyState, known: StudyState | None = None, typed: Sign | None = None
) -> StudyOut:
    """``known`` is the state that the client already has: columns of unchanged cells are left out. ``typed``: the decimal sign of what
    was typed last."""
    undo, redo = step_labels(study) if not only_looks(request) else (None, None)
    held = {column.key: column.cells for column in known.columns} if known else {}
    return StudyOut(
        id=study.pk,
        version=study.version,
        title=state.title,
        question=state.question,
        absolute_errors=state.absolute_errors,
        level=state.level,
        row_count=state.row_count,
        columns=_columns_out(state, held),
        assumed=[AssumedOut(row=row, reason=reason) for row, reason in sorted(state.assumed.items())],
        plot=PlotSettings(**state.plot),
        letters=dict(state.letters),
        rising=state.rising,
        author=state.author,
        date=state.date,
        report=list(state.report),
        picture=picture_of(state),
        instrument=is_read(study),
        is_copy=study.is_copy,
        course=state.course,
        aside=[AsideOut(row=row, reason=reason) for row, reason in sorted(state.aside.items())],
        undo=undo,
        redo=redo,
        analysis=analysis_of(state, QUICK),
        decimal_sign=decimal_sign(),
        offered_sign=offered(request, typed),
    )


def _columns_out(state: StudyState, held: dict[str, tuple[str, ...]]) -> list[ColumnOut]:
    calculated = calculate(state)

    def out(column: ColumnState) -> ColumnOut:
        found = calculated.get(column.key)
        cells, patch = _news(held.get(column.key), column.cells)
        return ColumnOut(
            key=column.key, name=column.name, symbol=column.symbol, unit=column.unit, role=column.role,
            formula=column.formula, exponent=column.exponent, over=over(column.unit, column.exponent), uncertainty=column.uncertainty,
            lowest=column.lowest, highest=column.highest, limits_why=column.limits_why,
            problem=found.problem if found else "", cells=list(map(in_sign, found.texts)) if found else cells, patch=[] if found else patch,
            no_value=[NoValueOut(row=row, why=why) for row, why in found.wrong.items()] if found else [],
        )  # fmt: skip

    return [out(column) for column in state.columns]


PATCHED = 500
"""Cells of a column up to which only those that changed are sent."""


def _news(known: tuple[str, ...] | None, cells: tuple[str, ...]) -> tuple[list[str] | None, list[CellPatchOut]]:
    """The cells of a column as they go to a client that knows some: all, or those that changed."""
    if known is None or len(known) != len(cells):
        return list(cells), []
    if known == cells:
        return None, []
    changed = [row for row, other in enumerate(map(ne, known, cells)) if other]
    if len(changed) > PATCHED or 4 * len(changed) > len(cells):
        return list(cells), []
    return None, [CellPatchOut(row=row, text=cells[row]) for row in changed]


def _conflict(request: HttpRequest, study_id: uuid.UUID) -> tuple[int, ConflictOut]:
    study = own_study(request)
    return 409, ConflictOut(message=CONFLICT, study=study_out(request, study, read_state(study)))


def study_json(request: HttpRequest, out: BaseModel) -> HttpResponse:
    """What was made by its schema needs no second check: an analysis of many readings is sent as it is."""
    data = without_withheld(request, out.model_dump())
    return HttpResponse(orjson.dumps(data), content_type="application/json")


def _leading(state: StudyState) -> Fit | Interpolation | None:
    """What leads, if there is anything to be asked."""
    return fit_one(read_table(state), state.linked_fits[0]).curve if state.fits else None


RequestKey = Annotated[str, StringConstraints(max_length=40)]
"""Makes repeating a request harmless: what was carried out with this key within a day is not carried out again."""


class NewStudy(Schema):
    """An empty study, a sample, or one that begins with a table; ``apart``: every y column a study of its own."""

    title: Annotated[str, StringConstraints(max_length=200, strip_whitespace=True)] = ""
    sample: str = ""
    table: TakeTable | None = None
    apart: bool = False
    request_key: RequestKey = ""


class ChangeIn(Schema):
    """A change made on ``version``."""

    version: Version
    change: AnyChange
    request_key: RequestKey = ""


class MovingIn(Schema):
    """A change that a hand is making on ``version``, and the stretch of x that it sees."""

    version: Version
    change: AnyChange
    low: FiniteFloat
    high: FiniteFloat


class StepIn(Schema):
    version: Version
    request_key: RequestKey = ""


class CopyIn(Schema):
    request_key: RequestKey = ""


class GoToIn(StepIn):
    """``number`` of the last step that is to be in force, 0 for the beginning."""

    number: Annotated[int, Field(ge=0)]


class AskIn(Schema):
    """A question that is not kept; see ``AnswerState``."""

    direction: Direction
    given: Annotated[str, StringConstraints(max_length=200)] = ""
    repeats: Annotated[int, Field(ge=1, le=10_000)] = 1
    fit: Asked = ""


@router.get("/shelf", response=ShelfOut)
def shelf(request: HttpRequest) -> ShelfOut:
    user = current_user(request)
    studies = list(Study.objects.filter(owner=user).order_by("-changed")) if user else []
    return ShelfOut(
        guest=user is None or user.is_guest,
        cards=[card(study) for study in studies if study.deleted is None],
        bin=[card(study) for study in studies if study.deleted is not None],
        decimal_sign=decimal_sign(),
        samples=[SampleOut(name=s.name, title=s.title, question=s.question, discover=s.discover) for s in SAMPLES],
    )


class SignIn(Schema):
    sign: Sign


@router.put("/decimal_sign", response={204: None})
def choose_sign(request: HttpRequest, body: SignIn) -> tuple[int, None]:
    """How numbers are written for whoever asks, in all studies."""
    choose(user_or_new_guest(request), body.sign)
    return 204, None


@router.post("/studies", response={201: CardOut, 400: Message})
def create(request: HttpRequest, body: NewStudy) -> tuple[int, CardOut | Message]:
    if body.sample:
        if not any(sample.name == body.sample for sample in SAMPLES):
            return 400, Message(message="There is no sample of that name.")
        state = build_sample(body.sample)
        try:
            made = create_study(user_or_new_guest(request), state, body.request_key, picture_in(state))
        except PictureRefused as refused:
            return 400, Message(message=str(refused))
        return 201, card(made)
    elif body.table is not None:
        try:
            states = begin_with_table(body.title or "New study", body.table, body.apart)
        except ChangeRefused as refused:
            return 400, Message(message=str(refused))
        user = user_or_new_guest(request)
        if known := made_by(user, body.request_key):
            return 201, card(known)
        with transaction.atomic():
            several = [create_study(user, state, body.request_key if not i else "") for i, state in enumerate(states)]
        first = card(several[0])
        first.offered_sign = offered(request, sign_in(body.table))
        return 201, first
    else:
        state = empty_study(body.title or "New study")
    return 201, card(create_study(user_or_new_guest(request), state, body.request_key))


@router.get("/studies/{study_id}", response={200: StudyOut, 404: Message})
def read(request: HttpRequest, study_id: uuid.UUID) -> Any:
    study = seen_study(request)
    state = read_state(study)
    return study_json(request, study_out(request, study, state))


@router.post("/studies/{study_id}/changes", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def change(request: HttpRequest, study_id: uuid.UUID, body: ChangeIn) -> Any:
    own_study(request)
    try:
        study, before, after = commit(
            study_id, body.version, body.change, body.request_key, partial(check_withheld, request)
        )
    except StaleVersion:
        return _conflict(request, study_id)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    # A repeated request is answered whole, and one that readings of an instrument came before: what arrived of it is not known.
    known = before if before is not after and study.version == body.version + 1 else None
    return study_json(request, study_out(request, study, after, known, sign_in(body.change)))


@router.post("/studies/{study_id}/undo", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def undo(request: HttpRequest, study_id: uuid.UUID, body: StepIn) -> Any:
    return _step(request, study_id, body, -1)


@router.post("/studies/{study_id}/redo", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def redo(request: HttpRequest, study_id: uuid.UUID, body: StepIn) -> Any:
    return _step(request, study_id, body, +1)


def _step(request: HttpRequest, study_id: uuid.UUID, body: StepIn, direction: int) -> Any:
    own_study(request)
    try:
        study, before, after = step(study_id, body.version, direction, body.request_key)
    except StaleVersion:
        return _conflict(request, study_id)
    except NothingToStep:
        return 400, Message(message=f"There is nothing to {'undo' if direction < 0 else 'redo'}.")
    known = before if before is not after and study.version == body.version + 1 else None
    return study_json(request, study_out(request, study, after, known))


@router.get("/studies/{study_id}/history", response={200: HistoryOut, 404: Message})
def history(request: HttpRequest, study_id: uuid.UUID) -> HistoryOut:
    """Every step that was made, the newest first, those that were undone among them."""
    study = own_study(request)
    total = study.revisions.count()
    newest = study.revisions.order_by("-number").values_list("number", "label", "made")[:HISTORY_SHOWN]
    steps = [StepOut(number=n, label=label, made=made, done=n <= study.position) for n, label, made in newest]
    if total <= HISTORY_SHOWN:
        steps.append(StepOut(number=0, label="the beginning", made=study.created, done=True))
    return HistoryOut(steps=steps, more=max(0, total - HISTORY_SHOWN))


@router.post("/studies/{study_id}/go_to", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def go_to_step(request: HttpRequest, study_id: uuid.UUID, body: GoToIn) -> Any:
    """Back or forward to any step of the history."""
    own_study(request)
    try:
        study, before, after = go_to(study_id, body.version, body.number, body.request_key)
    except StaleVersion:
        return _conflict(request, study_id)
    except NothingToStep:
        return 400, Message(message="That step is no longer in the history.")
    return study_json(request, study_out(request, study, after, None if before is after else before))


def _tried(request: HttpRequest, version: int, change: AnyChange) -> tuple[StudyState, StudyState]:
    """The state before and after a change that is only tried. Raises ChangeRefused."""
    study = own_study(request)
    if study.version != version:
        raise ChangeRefused("The study has moved on since.")
    before = read_state(study)
    after = apply_sound(change, before).state
    check_withheld(request, before, after)
    return before, after


@router.post("/studies/{study_id}/moving", response={200: MovingOut | None, 400: Message, 404: Message})
def while_moving(request: HttpRequest, study_id: uuid.UUID, body: MovingIn) -> Any:
    """What a plot shows of a change while a hand makes it; null where only the whole preview tells it. Stores nothing."""
    if not body.low < body.high:
        return 400, Message(message="The stretch ends before it begins.")
    try:
        before, after = _tried(request, body.version, body.change)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    found = moving(before, after, StretchOut(low=body.low, high=body.high))
    return None if found is None else study_json(request, found)


@router.post("/studies/{study_id}/preview", response={200: AnalysisOut, 400: Message, 404: Message})
def preview(request: HttpRequest, study_id: uuid.UUID, body: ChangeIn) -> Any:
    """The analysis as it would be after a change. Stores nothing."""
    try:
        before, after = _tried(request, body.version, body.change)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    same = (after.columns, after.aside, after.assumed) == (before.columns, before.aside, before.assumed)
    return study_json(request, analyse(after, same_readings=same, refits=UNCHECKED))


@router.get("/studies/{study_id}/refined", response={200: AnalysisOut, 404: Message, 409: Message})
def refined(request: HttpRequest, study_id: uuid.UUID, version: Version) -> Any:
    """The analysis of a version with all limits held against refits, whatever they cost, without the readings; refused for a version
    that was overtaken."""
    study = seen_study(request)
    if study.version != version:
        return 409, Message(message="The study has moved on since.")
    state = read_state(study)
    return study_json(request, without_readings(analysis_of(state)))


@router.get("/studies/{study_id}/newer", response={200: StudyOut | None, 404: Message})
def newer(request: HttpRequest, study_id: uuid.UUID, version: Version) -> Any:
    """The study where it is newer than a version, else null: asked every so often while it is open in several places."""
    study = seen_study(request)
    if study.version == version:
        return None
    state = read_state(study)
    return study_json(request, study_out(request, study, state))


@router.post("/studies/{study_id}/ask", response={200: AnswerOut, 404: Message})
def ask(request: HttpRequest, study_id: uuid.UUID, body: AskIn) -> AnswerOut:
    """An answer that is not kept."""
    refuse_withheld(request, "answers")
    state = read_state(seen_study(request))
    table = read_table(state)
    question = Question(body.direction, body.given, body.repeats, body.fit)
    return answer(fit_all(table, state.linked_fits), question, state.level, table.naming)


@router.get("/studies/{study_id}/rows/{row}", response={200: ReadingOut, 404: Message})
def row_details(request: HttpRequest, study_id: uuid.UUID, row: Row) -> ReadingOut:
    """A row in words; without entries where there is no such row (yet)."""
    study = seen_study(request)
    state = read_state(study)
    if not 0 <= row < state.row_count:
        return ReadingOut(row=row, entries=[])
    table = read_table(state)
    leading = _leading(state)
    withheld = withheld_from(request)
    fit = leading if isinstance(leading, Fit) else None
    entries = describe_reading(state, table, fit, row, judged="quality" not in withheld)
    told = table.status[row] == Status.UNKNOWN and "answers" not in withheld
    unknowns = analysis_of(state, QUICK).unknowns if told else []
    if found := next((unknown for unknown in unknowns if row in unknown.rows), None):
        entries += [("of", found.label), ("found", found.answer.result or found.answer.problem)]
    return ReadingOut(row=row, entries=[EntryOut(label=label, value=value) for label, value in entries])


@router.post("/studies/{study_id}/duplicate", response={201: CardOut, 400: Message, 404: Message})
def duplicate(request: HttpRequest, study_id: uuid.UUID, body: CopyIn) -> tuple[int, CardOut | Message]:
    """On the shelf of whoever asks, with the picture under its plot."""
    study = seen_study(request)
    refuse_withheld(request, *WORDS)
    state = read_state(study)
    picture = None
    if not only_looks(request):
        owner, title = study.owner, f"{state.title[:190]} (copy)"
    else:
        owner, title = user_or_new_guest(request), state.title
        picture = kept(study.owner, state.picture.digest) if state.picture else None
    try:
        return 201, card(create_study(owner, replace(state, title=title), body.request_key, picture))
    except PictureRefused as refused:
        return 400, Message(message=str(refused))


@router.delete("/studies/{study_id}", response={200: CardOut, 404: Message})
def put_in_bin(request: HttpRequest, study_id: uuid.UUID) -> CardOut:
    study = own_study(request)
    delete(study)
    return card(study)


@router.delete("/bin", response={204: None})
def empty(request: HttpRequest) -> tuple[int, None]:
    """Delete for good what is in the bin."""
    if user := current_user(request):
        empty_bin(user)
    return 204, None


@router.post("/studies/{study_id}/restore", response={200: CardOut, 404: Message})
def take_from_bin(request: HttpRequest, study_id: uuid.UUID) -> CardOut:
    study = own_study(request, binned=True)
    restore(study)
    return card(study)
