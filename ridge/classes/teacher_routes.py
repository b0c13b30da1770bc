"""The API of worksheets for those who make them."""

from __future__ import annotations

import uuid
from dataclasses import replace
from datetime import datetime
from typing import Annotated, Any, Literal, cast

from django.db import transaction
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import AfterValidator, Field, StringConstraints

from ridge.accounts.guests import current_user, user_or_new_guest
from ridge.classes.class_table import CopyOut, class_sheet, copies_of
from ridge.classes.copies import filed, new_code, steps_of, try_out
from ridge.classes.course_settings import CourseSettings, course_of, of_study, sensible, settle
from ridge.classes.models import HandIn, Worksheet
from ridge.classes.overlay import OverlayOut, overlay
from ridge.classes.pooling import NothingToPool, pooled
from ridge.classes.shipped import SHIPPED, make_shipped
from ridge.classes.task_steps import Needs, Step, Steps, with_keys
from ridge.exchange.data_files import write_csv, write_xlsx
from ridge.pictures import PictureRefused
from ridge.studies.api.admission import NotYours, own_study
from ridge.studies.api.sent_files import as_file, gives_file
from ridge.studies.api.shelf import card
from ridge.studies.api.withheld import WORDS, What, refuse_withheld
from ridge.studies.content.fields import Serial, Title
from ridge.studies.content.store import create_study, read_state
from ridge.studies.models import Study
from ridge.studies.out.study_file import read_study
from ridge.studies.words.schemas import CardOut, Message

router = Router(tags=["worksheets"])
MOST = 200
FULL = f"You have {MOST} worksheets already. Delete one that is not needed any more."
CSV, XLSX = "text/csv; charset=utf-8", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
BEGINNING = "Look at the readings and at the question. What do you expect, and why? Write it down."


Begin = Literal["all", "readings", "columns"]
"""What a copy begins with: all of the study, its readings without fits and answers, or its columns without readings."""


WithheldIn = dict[What, Annotated[int, Field(ge=1, le=40)]]
"""What is kept back, with the number of the step that must be done before it is told."""


class WorksheetOut(Schema):
    """``copies``: how many have joined, ``handed_in``: how many of them handed in."""

    id: uuid.UUID
    title: str
    begin: Begin
    withheld: dict[str, int]
    steps: list[Step]
    course: CourseSettings
    code: str
    link: str
    closed: bool
    made: datetime
    copies: int
    handed_in: int


class ShippedOut(Schema):
    """A worksheet that comes with Ridge; ``steps``: how many."""

    name: str
    title: str
    about: str
    steps: int


class WorksheetIn(Schema):
    """``course``: the course's settings; left out, they stay as they are."""

    title: Title
    steps: Steps
    begin: Begin = "readings"
    withheld: WithheldIn = {}
    course: Annotated[CourseSettings, AfterValidator(sensible)] | None = None
    closed: bool = False


class JoinedOut(Schema):
    study: uuid.UUID


class ClassOut(Schema):
    worksheet: WorksheetOut
    copies: list[CopyOut]


class PooledOut(Schema):
    """The new study, and what was left out."""

    study: CardOut
    said: Annotated[str, StringConstraints(max_length=40_000)]


def _own(request: HttpRequest, worksheet_id: uuid.UUID) -> Worksheet:
    """The asker's own. Raises NotYours."""
    user = current_user(request)
    found = Worksheet.objects.filter(pk=worksheet_id, owner=user).first() if user else None
    if found is None:
        raise NotYours
    return found


def _has_most(owner_id: int) -> bool:
    return Worksheet.objects.filter(owner=owner_id).count() >= MOST


def _told(worksheet: Worksheet) -> WorksheetOut:
    return WorksheetOut(
        id=worksheet.pk, title=worksheet.title, begin=cast(Begin, worksheet.begin), withheld=worksheet.withheld, steps=steps_of(worksheet), course=course_of(worksheet), code=worksheet.code, link=worksheet.link, closed=worksheet.closed,
        made=worksheet.made, copies=worksheet.of_class.count(),
        handed_in=worksheet.of_class.filter(handed_in__isnull=False).distinct().count(),
    )  # fmt: skip


@router.get("/worksheets", response=list[WorksheetOut])
def worksheets(request: HttpRequest) -> Any:
    """Those that whoever asks has made, the newest first."""
    user = current_user(request)
    return [_told(one) for one in Worksheet.objects.filter(owner=user)] if user else []


@router.post("/studies/{study_id}/worksheet_of_it", response={201: WorksheetOut, 400: Message, 404: Message})
def make(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """A worksheet whose copies begin with this study as it is now; none of a copy of which something is kept back."""
    study = own_study(request)
    refuse_withheld(request, *WORDS)
    if _has_most(study.owner_id):
        return 400, Message(message=FULL)
    steps = with_keys([Step(text=BEGINNING, needs=Needs(kind="text", count=10))])
    with transaction.atomic():
        study = Study.objects.select_for_update().get(pk=study_id)
        made = Worksheet.objects.create(
            owner=study.owner, title=study.title, study_file=filed(study), code=new_code(),
            steps=[step.model_dump() for step in steps], course=of_study(read_state(study)).model_dump(mode="json"),
        )  # fmt: skip
    return 201, _told(made)


@router.get("/shipped_worksheets", response=list[ShippedOut])
def shipped_worksheets(request: HttpRequest) -> Any:
    """Those that come with Ridge."""
    return [ShippedOut(name=one.name, title=one.title, about=one.about, steps=len(one.steps)) for one in SHIPPED]


@router.post("/shipped_worksheets/{name}", response={201: WorksheetOut, 400: Message, 404: Message})
def use_shipped(request: HttpRequest, name: str) -> Any:
    """One of them as one's own."""
    found = next((one for one in SHIPPED if one.name == name), None)
    if found is None:
        return 404, Message(message="There is no such worksheet.")
    user = user_or_new_guest(request)
    if _has_most(user.pk):
        return 400, Message(message=FULL)
    return 201, _told(make_shipped(user.pk, found))


@router.get("/worksheets/{worksheet_id}", response={200: WorksheetOut, 404: Message})
def worksheet(request: HttpRequest, worksheet_id: uuid.UUID) -> Any:
    return _told(_own(request, worksheet_id))


@router.put("/worksheets/{worksheet_id}", response={200: WorksheetOut, 404: Message})
def mend(request: HttpRequest, worksheet_id: uuid.UUID, body: WorksheetIn) -> Any:
    """Copies that are there already have the new text at once; what was written to a step stays with it."""
    found = _own(request, worksheet_id)
    found.title, found.begin, found.closed = body.title, body.begin, body.closed
    found.withheld = body.withheld
    found.steps = [step.model_dump() for step in with_keys(body.steps)]
    with transaction.atomic():
        if body.course is not None and body.course != course_of(found):
            found.course = body.course.model_dump(mode="json")
            settle(found, body.course)
        found.save(update_fields=["title", "begin", "withheld", "course", "closed", "steps"])
    return _told(found)


@router.delete("/worksheets/{worksheet_id}", response={204: None, 404: Message})
def delete(request: HttpRequest, worksheet_id: uuid.UUID) -> Any:
    """Nobody can join any more; the copies stay with the students."""
    _own(request, worksheet_id).delete()
    return 204, None


@router.post("/worksheets/{worksheet_id}/trial", response={201: JoinedOut, 400: Message, 404: Message})
def try_as_student(request: HttpRequest, worksheet_id: uuid.UUID) -> Any:
    """A fresh copy as a student has it, for whoever made the worksheet; it is not among those of the class."""
    found = _own(request, worksheet_id)
    try:
        return 201, JoinedOut(study=try_out(found).study_id)
    except PictureRefused as why:
        return 400, Message(message=str(why))


@router.get("/worksheets/{worksheet_id}/class", response={200: ClassOut, 404: Message})
def at_a_glance(request: HttpRequest, worksheet_id: uuid.UUID) -> Any:
    """Every copy in one row."""
    found = _own(request, worksheet_id)
    return ClassOut(worksheet=_told(found), copies=copies_of(found))


@router.get("/worksheets/{worksheet_id}/class.{kind}", response={404: Message}, openapi_extra=gives_file(CSV, XLSX))
def as_table(request: HttpRequest, worksheet_id: uuid.UUID, kind: Literal["csv", "xlsx"]) -> Any:
    found = _own(request, worksheet_id)
    sheet = class_sheet(found, copies_of(found))
    title = f"{found.title} class"
    if kind == "csv":
        return as_file(write_csv(sheet), CSV, title, kind)
    return as_file(write_xlsx([sheet]), XLSX, title, kind)


@router.get("/worksheets/{worksheet_id}/overlay", response={200: OverlayOut | None, 404: Message})
def over_one_plot(request: HttpRequest, worksheet_id: uuid.UUID) -> Any:
    """Everybody's readings and leading fit; null as long as nobody has readings."""
    return overlay(_own(request, worksheet_id))


@router.post(
    "/worksheets/{worksheet_id}/copies/{copy_id}/handed_in", response={201: CardOut, 400: Message, 404: Message}
)
def open_handed_in(request: HttpRequest, worksheet_id: uuid.UUID, copy_id: Serial) -> Any:
    """What was handed in last, as it was then, as a study on one's own shelf."""
    found = _own(request, worksheet_id)
    last = HandIn.objects.filter(copy__worksheet=found, copy=copy_id).select_related("copy").last()
    if last is None:
        return 404, Message(message="Nothing was handed in.")
    opened = read_study(last.study_file)
    title = f"{last.copy.student}: {opened.state.title}"[:200]
    try:
        made = create_study(found.owner, replace(opened.state, title=title), picture=opened.picture)
    except PictureRefused as why:
        return 400, Message(message=str(why))
    return 201, card(made)


@router.post("/worksheets/{worksheet_id}/pool", response={201: PooledOut, 400: Message, 404: Message})
def pool(request: HttpRequest, worksheet_id: uuid.UUID) -> Any:
    """All readings of the class as a new study on one's own shelf."""
    found = _own(request, worksheet_id)
    try:
        state, said = pooled(found)
    except NothingToPool as why:
        return 400, Message(message=str(why))
    return 201, PooledOut(study=card(create_study(found.owner, state)), said=said)
