"""The API of worksheets for students: joining by a code, the steps of a copy, handing in."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Any

from django.db import transaction
from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import StringConstraints

from ridge.accounts.address import address_of
from ridge.accounts.guests import user_or_new_guest
from ridge.accounts.rates import Rate, TooOften
from ridge.classes.copies import NotTaken, hand_in, join, readings_lacking, steps_of, worksheet_of
from ridge.classes.keeping_back import still
from ridge.classes.models import Copy, Worksheet
from ridge.classes.task_steps import OwnText, Step, StepKey, done, reached, words
from ridge.classes.teacher_routes import JoinedOut
from ridge.pictures import PictureRefused
from ridge.studies.api.admission import link_used, own_study, seen_study
from ridge.studies.api.withheld import WORDS, What
from ridge.studies.content.store import read_state
from ridge.studies.models import Study
from ridge.studies.words.analyse import analysis_of
from ridge.studies.words.schemas import Message

router = Router(tags=["worksheets"])
NO_CODE = "There is no worksheet of this code. Look at it again: it has eight letters and digits."
NO_COPY = "This study is no copy of a worksheet."
GONE = "The worksheet was deleted by your teacher. Your copy stays with you."
_wrong = Rate(20)
"""Wrong codes from one address in a minute, after which it waits: of 10^12 codes nobody finds one so, and a whole class still joins."""

Code = Annotated[str, StringConstraints(max_length=43)]
"""A code as it is typed, or a link."""
Student = Annotated[str, StringConstraints(min_length=1, max_length=60, strip_whitespace=True)]


class InvitationOut(Schema):
    """What a code opens, before one joins."""

    title: str
    steps: int
    closed: bool


class JoinIn(Schema):
    code: Code
    student: Student


class TaskStepOut(Schema):
    """A step as the student sees it; ``open``: whether those before it are done; ``words``: how many there are of those that are needed."""

    key: str
    text: str
    kind: str
    needs: str
    done: bool
    open: bool
    own: str
    words: int


class WithheldOut(Schema):
    """Something that is told when the step of this number is done."""

    part: What
    what: str
    until: int


class TaskOut(Schema):
    """``lacking``: how many readings are missing, if so; ``gone``: why nothing can be handed in any more, if so; ``number``: how often it was, ``handed_in`` when for the last time."""

    student: str
    title: str
    steps: list[TaskStepOut]
    reached: int
    withheld: list[WithheldOut]
    lacking: str
    gone: str
    closed: bool
    number: int
    handed_in: datetime | None


class OwnTextIn(Schema):
    """What a student writes to a step, or that it is done."""

    step: StepKey
    text: OwnText | None = None
    done: bool | None = None


@router.get("/join/{code}", response={200: InvitationOut, 404: Message})
def invitation(request: HttpRequest, code: Code) -> Any:
    found = _found(request, code)
    if found is None:
        return 404, Message(message=NO_CODE)
    return InvitationOut(title=found.title, steps=len(found.steps), closed=found.closed)


@router.post("/join", response={201: JoinedOut, 400: Message, 404: Message})
def join_class(request: HttpRequest, body: JoinIn) -> Any:
    """A copy of one's own, or that which one has already."""
    found = _found(request, body.code)
    if found is None:
        return 404, Message(message=NO_CODE)
    try:
        return 201, JoinedOut(study=join(found, user_or_new_guest(request), body.student).study_id)
    except (NotTaken, PictureRefused) as why:
        return 400, Message(message=str(why))


def _found(request: HttpRequest, code: str) -> Worksheet | None:
    address = address_of(request)
    if not _wrong.has_room(address):
        raise TooOften("These are too many codes for one minute. Try again in a minute.")
    found = worksheet_of(code)
    if found is None:
        _wrong.is_kept(address)
    return found


@router.get("/studies/{study_id}/task", response={200: TaskOut | None, 404: Message})
def task(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """The worksheet that a study is a copy of, with what is done of it; null where it is none, and for who looks by a link: a student's
    name is for the teacher alone."""
    study = seen_study(request)
    if link_used(request) is not None:
        return None
    copy = Copy.objects.filter(study=study).select_related("worksheet").first()
    return _told(copy, study) if copy else None


@router.put("/studies/{study_id}/task", response={200: TaskOut, 404: Message})
def write(request: HttpRequest, study_id: uuid.UUID, body: OwnTextIn) -> Any:
    """One's own words to a step, or its tick."""
    study = own_study(request)
    known = Copy.objects.filter(study=study).select_related("worksheet").first()
    if known is None or known.worksheet is None or all(step.key != body.step for step in steps_of(known.worksheet)):
        return 404, Message(message=NO_COPY)
    with transaction.atomic():  # two windows may write to two steps
        copy = Copy.objects.select_for_update().get(pk=known.pk)
        if body.text is not None:
            copy.texts = {**copy.texts, body.step: body.text}
        if body.done is not None:
            copy.ticked = [*(key for key in copy.ticked if key != body.step), *([body.step] if body.done else [])]
        copy.save(update_fields=["texts", "ticked"])
    copy.worksheet = known.worksheet
    return _told(copy, study)


@router.post("/studies/{study_id}/task/hand_in", response={200: TaskOut, 400: Message, 404: Message})
def hand_in_copy(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """Freeze the copy as it is now, with its time."""
    study = own_study(request)
    copy = Copy.objects.filter(study=study).first()
    if copy is None:
        return 404, Message(message=NO_COPY)
    try:
        hand_in(copy)
    except NotTaken as why:
        return 400, Message(message=str(why))
    return _told(Copy.objects.select_related("worksheet").get(pk=copy.pk), study)


def _told(copy: Copy, study: Study) -> TaskOut:
    sheet = copy.worksheet
    steps = steps_of(sheet) if sheet else []
    state = read_state(study)
    dones = done(steps, state, analysis_of(state), copy.texts, copy.ticked)
    so_far = reached(dones)
    last = copy.handed_in.last()
    kept_back = still(sheet, so_far) if sheet else {}
    return TaskOut(
        student=copy.student, title=sheet.title if sheet else study.title, reached=so_far, withheld=[WithheldOut(part=what, what=WORDS[what], until=step) for what, step in kept_back.items()], lacking=readings_lacking(state), gone="" if sheet else GONE,
        steps=[
            _step(step, copy, is_done, place <= so_far)
            for place, (step, is_done) in enumerate(zip(steps, dones, strict=True))
        ],
        closed=sheet.closed if sheet else True, number=last.number if last else 0, handed_in=last.made if last else None,
    )  # fmt: skip


def _step(step: Step, copy: Copy, is_done: bool, is_open: bool) -> TaskStepOut:
    own = copy.texts.get(step.key, "")
    return TaskStepOut(
        key=step.key, text=step.text if is_open else "", kind=step.needs.kind, needs=_needs(step) if is_open else "",
        done=is_done, open=is_open, own=own, words=words(own),
    )  # fmt: skip


def _needs(step: Step) -> str:
    """What is still to be there, told without what would give the answer away."""
    needs = step.needs
    many = "" if needs.count == 1 else "s"
    match needs.kind:
        case "readings":
            return f"{needs.count} reading{many} in use"
        case "fit":
            return f"a fit: {needs.family}" if needs.family else "a fit of any kind"
        case "answer":
            return "the answer, kept on the page"
        case "text":
            return f"{needs.count} word{many} of your own"
        case _:
            return ""
