"""The API of studies. One request a gesture; every query goes through the owner."""

from __future__ import annotations

import uuid
from dataclasses import replace
from typing import Annotated, Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Schema
from pydantic import Field, FiniteFloat, StringConstraints

from ridge.accounts.guests import current_user, user_or_new_guest
from ridge.core import Fit
from ridge.core.errors import RidgeError
from ridge.core.wording.readings import word_refusal
from ridge.exchange.figure import CannotDraw, draw_svg
from ridge.exchange.tables import LONGEST, NoTable, read_text_table
from ridge.studies.analysis import analyse, analysis_of, fit_state, sample_curve
from ridge.studies.answers import answer
from ridge.studies.changes import AnyChange, ChangeRefused
from ridge.studies.figure import figure_content
from ridge.studies.models import Study
from ridge.studies.reading_details import describe_reading
from ridge.studies.readings import Table, read_table
from ridge.studies.samples import SAMPLES, build_sample
from ridge.studies.schemas import (
    AnalysisOut,
    AnswerOut,
    AsideOut,
    CardOut,
    ColumnOut,
    ConflictOut,
    CurveOut,
    EntryOut,
    Message,
    ReadingOut,
    SampleOut,
    ShelfOut,
    StudyOut,
    UnderstoodCellOut,
    UnderstoodColumnOut,
    UnderstoodOut,
)
from ridge.studies.shelf import card
from ridge.studies.state import LIMITS, AnswerState, StudyState, empty_study
from ridge.studies.store import (
    NothingToStep,
    StaleVersion,
    commit,
    create_study,
    delete,
    read_state,
    restore,
    step,
    step_labels,
)

router = Router(tags=["studies"])
SHOWN = 8  # rows of a pasted table that its preview shows
CONFLICT = "This study was changed in another window. Here is the newer state; your last change was not made."


class NotYours(Exception):
    """No such study, or not this user's: the answer is the same."""


def _own_study(request: HttpRequest, study_id: uuid.UUID, *, binned: bool = False) -> Study:
    user = current_user(request)
    study = Study.objects.filter(pk=study_id, owner=user).first() if user else None
    if study is None or (study.deleted is not None and not binned):
        raise NotYours
    return study


def _study_out(study: Study, state: StudyState, known: StudyState | None = None) -> StudyOut:
    """``known`` is the state that the client already has: columns of unchanged cells are left out."""
    undo, redo = step_labels(study)
    held = {column.key: column.cells for column in known.columns} if known else {}
    return StudyOut(
        id=study.pk,
        version=study.version,
        title=state.title,
        question=state.question,
        absolute_errors=state.absolute_errors,
        level=state.level,
        row_count=state.row_count,
        columns=[
            ColumnOut(
                key=c.key,
                name=c.name,
                symbol=c.symbol,
                unit=c.unit,
                role=c.role,
                cells=None if held.get(c.key) == c.cells else list(c.cells),
            )
            for c in state.columns
        ],
        aside=[AsideOut(row=row, reason=reason) for row, reason in sorted(state.aside.items())],
        undo=undo,
        redo=redo,
        analysis=analysis_of(study, state),
    )


def _conflict(request: HttpRequest, study_id: uuid.UUID) -> tuple[int, ConflictOut]:
    study = _own_study(request, study_id)
    return 409, ConflictOut(message=CONFLICT, study=_study_out(study, read_state(study)))


def _fit(state: StudyState, table: Table) -> tuple[Fit | None, str]:
    """The leading fit, or why there is none."""
    try:
        return fit_state(table, state.fits[0]), ""
    except RidgeError as error:
        return None, word_refusal(error, table.readings, table.naming)


class NewStudy(Schema):
    title: Annotated[str, StringConstraints(max_length=200, strip_whitespace=True)] = ""
    sample: str = ""


class ChangeIn(Schema):
    """A change made on ``version``. ``request_key`` makes repeating the request harmless."""

    version: int
    change: AnyChange
    request_key: Annotated[str, StringConstraints(max_length=40)] = ""


class UnderstandIn(Schema):
    """A pasted table; what is None is guessed."""

    text: Annotated[str, StringConstraints(max_length=LONGEST)]
    separator: Literal["tab", "semicolon", "comma", "spaces"] | None = None
    decimal: Literal["point", "comma"] | None = None
    header: bool | None = None


class StepIn(Schema):
    version: int


class AskIn(Schema):
    """``change``, when given, is laid over the stored state first (a preview); nothing is stored."""

    direction: str
    given: Annotated[str, StringConstraints(max_length=200)]
    repeats: Annotated[int, Field(ge=1, le=10_000)] = 1


@router.get("/shelf", response=ShelfOut)
def shelf(request: HttpRequest) -> ShelfOut:
    user = current_user(request)
    studies = list(Study.objects.filter(owner=user).order_by("-changed")) if user else []
    return ShelfOut(
        guest=user is None or user.is_guest,
        cards=[card(study) for study in studies if study.deleted is None],
        bin=[card(study) for study in studies if study.deleted is not None],
        samples=[SampleOut(name=s.name, title=s.title, question=s.question, discover=s.discover) for s in SAMPLES],
    )


@router.post("/studies", response={201: CardOut, 400: Message})
def create(request: HttpRequest, body: NewStudy) -> tuple[int, CardOut | Message]:
    if body.sample:
        if not any(sample.name == body.sample for sample in SAMPLES):
            return 400, Message(message="There is no sample of that name.")
        state = build_sample(body.sample)
    else:
        state = empty_study(body.title or "New study")
    return 201, card(create_study(user_or_new_guest(request), state))


@router.post("/tables/understand", response={200: UnderstoodOut, 400: Message})
def understand(request: HttpRequest, body: UnderstandIn) -> Any:
    """How a pasted table reads; stores nothing."""
    try:
        table = read_text_table(body.text, body.separator, body.decimal, body.header)
    except NoTable as reason:
        return 400, Message(message=str(reason))
    return UnderstoodOut(
        separator=table.separator,
        decimal=table.decimal,
        header=table.header,
        row_count=table.row_count,
        columns=[
            UnderstoodColumnOut(
                name=column.name[:100],
                symbol=column.symbol[:20],
                unit=column.unit[:40],
                role=column.role,
                cells=[cell[:60] for cell in column.cells[:SHOWN]],
                wrong=[UnderstoodCellOut(row=row, text=column.cells[row][:60]) for row in column.wrong[:SHOWN]],
                wrong_count=len(column.wrong),
            )
            for column in table.columns[: LIMITS["columns"] + 1]
        ],
    )


@router.get("/studies/{study_id}", response={200: StudyOut, 404: Message})
def read(request: HttpRequest, study_id: uuid.UUID) -> StudyOut:
    study = _own_study(request, study_id)
    return _study_out(study, read_state(study))


@router.post("/studies/{study_id}/changes", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def change(request: HttpRequest, study_id: uuid.UUID, body: ChangeIn) -> Any:
    _own_study(request, study_id)
    try:
        study, before, after = commit(study_id, body.version, body.change, body.request_key)
    except StaleVersion:
        return _conflict(request, study_id)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    # A repeated request is answered whole: whether the first answer arrived is not known.
    return _study_out(study, after, None if before is after else before)


@router.post("/studies/{study_id}/undo", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def undo(request: HttpRequest, study_id: uuid.UUID, body: StepIn) -> Any:
    return _step(request, study_id, body.version, -1)


@router.post("/studies/{study_id}/redo", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def redo(request: HttpRequest, study_id: uuid.UUID, body: StepIn) -> Any:
    return _step(request, study_id, body.version, +1)


def _step(request: HttpRequest, study_id: uuid.UUID, version: int, direction: int) -> Any:
    _own_study(request, study_id)
    try:
        study, before, after = step(study_id, version, direction)
    except StaleVersion:
        return _conflict(request, study_id)
    except NothingToStep:
        return 400, Message(message=f"There is nothing to {'undo' if direction < 0 else 'redo'}.")
    return _study_out(study, after, before)


@router.post("/studies/{study_id}/preview", response={200: AnalysisOut, 400: Message, 404: Message})
def preview(request: HttpRequest, study_id: uuid.UUID, body: ChangeIn) -> Any:
    """The analysis as it would be after a change. Stores nothing."""
    study = _own_study(request, study_id)
    if study.version != body.version:
        return 400, Message(message="The study has moved on since.")
    try:
        return analyse(body.change.apply(read_state(study)).state)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))


@router.post("/studies/{study_id}/ask", response={200: AnswerOut, 404: Message})
def ask(request: HttpRequest, study_id: uuid.UUID, body: AskIn) -> AnswerOut:
    """An answer that is not kept."""
    state = read_state(_own_study(request, study_id))
    table = read_table(state)
    fit, _ = _fit(state, table)
    direction = "x_at_y" if body.direction == "x_at_y" else "y_at_x"
    return answer(fit, AnswerState("", direction, body.given, body.repeats), state.level, table.naming)


class StretchIn(Schema):
    """A stretch of the x axis."""

    low: FiniteFloat
    high: FiniteFloat


@router.get("/studies/{study_id}/curve", response={200: CurveOut, 400: Message, 404: Message})
def curve(request: HttpRequest, study_id: uuid.UUID, stretch: Query[StretchIn]) -> Any:
    """Samples of the leading curve over what the plot shows."""
    state = read_state(_own_study(request, study_id))
    fit, refusal = _fit(state, read_table(state))
    if fit is None or not stretch.low < stretch.high:
        return 400, Message(message=refusal or "The stretch ends before it begins.")
    return sample_curve(fit, stretch.low, stretch.high, state.level)


@router.get("/studies/{study_id}/rows/{row}", response={200: ReadingOut, 404: Message})
def row_details(request: HttpRequest, study_id: uuid.UUID, row: int) -> ReadingOut:
    """A row in words; without entries where there is no such row (yet)."""
    study = _own_study(request, study_id)
    state = read_state(study)
    if not 0 <= row < state.row_count:
        return ReadingOut(row=row, entries=[])
    table = read_table(state)
    entries = describe_reading(state, table, _fit(state, table)[0], row)
    if found := next((unknown for unknown in analysis_of(study, state).unknowns if row in unknown.rows), None):
        entries += [("of", found.label), ("found", found.answer.result or found.answer.problem)]
    return ReadingOut(row=row, entries=[EntryOut(label=label, value=value) for label, value in entries])


class ViewIn(Schema):
    """What the plot shows; left out, all readings."""

    x_low: FiniteFloat | None = None
    x_high: FiniteFloat | None = None
    y_low: FiniteFloat | None = None
    y_high: FiniteFloat | None = None


@router.get("/studies/{study_id}/figure.svg", response={400: Message, 404: Message})
def figure(request: HttpRequest, study_id: uuid.UUID, view: Query[ViewIn]) -> Any:
    """The figure as SVG, as it is seen."""
    study = _own_study(request, study_id)
    state = read_state(study)
    content = figure_content(state, analysis_of(study, state), view.x_low, view.x_high, view.y_low, view.y_high)
    try:
        drawing = draw_svg(content)
    except CannotDraw as reason:
        return 400, Message(message=str(reason))
    response = HttpResponse(drawing, content_type="image/svg+xml")
    response["Content-Disposition"] = f'attachment; filename="figure-{study.pk}.svg"'
    return response


@router.post("/studies/{study_id}/duplicate", response={201: CardOut, 404: Message})
def duplicate(request: HttpRequest, study_id: uuid.UUID) -> tuple[int, CardOut]:
    study = _own_study(request, study_id)
    state = read_state(study)
    title = f"{state.title[:190]} (copy)"
    return 201, card(create_study(study.owner, replace(state, title=title)))


@router.delete("/studies/{study_id}", response={200: CardOut, 404: Message})
def put_in_bin(request: HttpRequest, study_id: uuid.UUID) -> CardOut:
    study = _own_study(request, study_id)
    delete(study)
    return card(study)


@router.post("/studies/{study_id}/restore", response={200: CardOut, 404: Message})
def take_from_bin(request: HttpRequest, study_id: uuid.UUID) -> CardOut:
    study = _own_study(request, study_id, binned=True)
    restore(study)
    return card(study)
