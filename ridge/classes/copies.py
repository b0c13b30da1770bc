"""Copies of a worksheet: made when a student joins, looked through by the teacher, handed in."""

from __future__ import annotations

import re
import secrets
from dataclasses import replace

from django.db import transaction
from django.db.models import Max

from ridge.accounts.guests import DEMO_USER
from ridge.accounts.models import User
from ridge.accounts.names import UnsuitableName, looks_like, plain_name
from ridge.classes.course_settings import course_of, held_to, stored
from ridge.classes.models import Copy, HandIn, Worksheet
from ridge.classes.task_steps import Step
from ridge.studies.content.kept_pictures import kept
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.room import take_room
from ridge.studies.content.state import WHOLE_REPORT, StudyState
from ridge.studies.content.store import create_study, read_state
from ridge.studies.models import Study
from ridge.studies.out.study_file import read_study, write_study

_ALPHABET = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"
CODE = 8
LINK = 24
"""Characters from which on it is a link and no code."""
MOST_COPIES = 500
TRIAL = "Your own trial"
MOST_HAND_INS = 50
CLOSED = "This worksheet is closed: nothing is taken in any more. Ask your teacher."


class NotTaken(Exception):
    """The message says why, and what to do."""


def new_code() -> str:
    """Eight letters and digits that are not taken for one another, 40 random bits: tries are counted, and it only lets join."""
    while Worksheet.objects.filter(code=(code := "".join(secrets.choice(_ALPHABET) for _ in range(CODE)))).exists():
        pass
    return code


def worksheet_of(code: str) -> Worksheet | None:
    """By its link, or by its code as it was typed: small letters, spaces and dashes do not matter."""
    if len(code) >= LINK:
        return Worksheet.objects.filter(link=code).first()
    return Worksheet.objects.filter(code=re.sub(r"[\s-]", "", code).upper()).first()


def file_of(study: Study, state: StudyState) -> str:
    """A study as its file, with the picture under its plot."""
    picture = kept(study.owner, state.picture.digest) if state.picture else None
    return write_study(state, picture.data if picture else None).decode()


def steps_of(worksheet: Worksheet) -> list[Step]:
    return [Step.model_validate(one) for one in worksheet.steps]


@transaction.atomic
def join(worksheet: Worksheet, user: User, student: str) -> Copy:
    """Return the student's copy, a new one or that which is there. Raises NotTaken, and what ``create_study`` raises."""
    try:
        student = plain_name(student)
    except UnsuitableName as why:
        raise NotTaken(str(why)) from None
    Worksheet.objects.select_for_update().get(pk=worksheet.pk)
    own = worksheet.of_class.filter(study__owner=user)
    if user.username == DEMO_USER:  # everybody at once: known by their names alone
        own = own.filter(student__iexact=student)
    if known := own.first():
        return known
    if worksheet.closed:
        raise NotTaken(CLOSED)
    if worksheet.of_class.count() >= MOST_COPIES:
        raise NotTaken(f"{MOST_COPIES} have joined already, as many as can. Ask your teacher.")
    if taken := looks_like(student, worksheet.of_class.values_list("student", flat=True)):
        raise NotTaken(f"There is a {taken} in this class already. Add a letter of your family name.")
    return _made(worksheet, user, student)


@transaction.atomic
def try_out(worksheet: Worksheet) -> Copy:
    """A fresh copy for whoever made the worksheet, in the place of the one that was tried before. Raises what ``create_study`` raises."""
    Study.objects.filter(copy__worksheet=worksheet, copy__trial=True).delete()
    return _made(worksheet, worksheet.owner, TRIAL, trial=True)


def _made(worksheet: Worksheet, user: User, student: str, *, trial: bool = False) -> Copy:
    found, course = read_study(worksheet.study_file), course_of(worksheet)
    study = create_study(user, held_to(course, _first_state(worksheet, found.state)), picture=found.picture)
    study.is_copy, study.course = True, stored(course.settled)
    study.save(update_fields=["is_copy", "course"])
    return Copy.objects.create(worksheet=worksheet, study=study, student=student, trial=trial)


def _first_state(worksheet: Worksheet, state: StudyState) -> StudyState:
    """What a copy begins with."""
    state = replace(state, title=worksheet.title)
    if "fit" in worksheet.withheld:
        state = replace(state, fits=tuple(fit for fit in state.fits if fit.by_hand))
    if "answers" in worksheet.withheld:
        state = replace(state, answers=())
    if worksheet.begin == "all":
        return state
    state = replace(state, fits=(), answers=(), report=WHOLE_REPORT)
    if worksheet.begin == "readings":
        return state
    return replace(state, columns=tuple(replace(one, cells=()) for one in state.columns), aside={}, assumed={})


@transaction.atomic
def hand_in(copy: Copy) -> HandIn:
    """Freeze the copy as it is. Raises NotTaken, NoRoom."""
    copy = Copy.objects.select_for_update(of=("self",)).select_related("worksheet").get(pk=copy.pk)
    if copy.worksheet is None:
        raise NotTaken("The worksheet was deleted by your teacher. Your copy stays with you.")
    if copy.worksheet.closed:
        raise NotTaken(CLOSED)
    number = (copy.handed_in.aggregate(last=Max("number"))["last"] or 0) + 1
    if number > MOST_HAND_INS:
        raise NotTaken(f"You have handed in {MOST_HAND_INS} times, as often as one can.")
    study = Study.objects.select_for_update().get(pk=copy.study_id)
    if lacking := readings_lacking(read_state(study)):
        raise NotTaken(lacking)
    return copy.handed_in.create(number=number, study_file=filed(study), texts=copy.texts)


def readings_lacking(state: StudyState) -> str:
    """A sentence where there are fewer readings than the course asks for; else empty."""
    least = state.course.least_readings if state.course else 0
    used = read_table(state).count(Status.USED) if least else 0
    return f"Your course asks for {least} readings at least: {used} are in use." if used < least else ""


def filed(study: Study) -> str:
    """A locked study as its file, which takes room of its owner's. Raises NoRoom."""
    text = file_of(study, read_state(study))
    take_room(study, len(text))
    study.save(update_fields=["size"])
    return text
