"""The course's settings of a worksheet: they hold in every copy, also in those that students have already."""

from __future__ import annotations

from dataclasses import replace

from django.db.models import F, QuerySet
from ninja import Schema
from pydantic import TypeAdapter

from ridge.classes.models import Worksheet
from ridge.core.catalogue import ENTRIES
from ridge.core.models import Formula
from ridge.core.wording.naming import Naming
from ridge.studies.content.course import Course
from ridge.studies.content.fields import Letters, Level
from ridge.studies.content.state import FitState, StudyState
from ridge.studies.models import Study

_COURSES: TypeAdapter[Course] = TypeAdapter(Course)


class CourseSettings(Schema):
    """Letters of parameters, the order of terms, the level of intervals, and all else that is settled."""

    letters: Letters = {}
    rising: bool = False
    level: Level = 0.95
    settled: Course = Course()


MOST_STEPS = 100_000
"""Of a handle from one end of its span to the other."""


def sensible(course: CourseSettings) -> CourseSettings:
    """Raises ValueError, saying what is wrong, for what a teacher cannot mean."""
    settled = course.settled
    for key in (*settled.models, *(one.form for one in settled.spans)):
        if key not in ENTRIES:
            raise ValueError(f"The catalogue has no model called {key}.")
    naming = Naming(letters=tuple(course.letters.items()))
    for name, letter in course.letters.items():
        if letter not in ("x", "y") and naming.letter(name) != letter:
            raise ValueError(f"{letter} already stands for another parameter beside {name.replace('_', ' ')}.")
    for one in settled.spans:
        entry = ENTRIES[one.form]
        if (
            entry.group != "model"
            or entry.family == Formula.family
            or one.parameter not in entry.model().parameter_names
        ):
            raise ValueError(f"The model {entry.form.name} has no handle for {one.parameter}.")
        if not one.low < one.high or (one.high - one.low) / one.step > MOST_STEPS:
            raise ValueError(f"The span of {one.parameter} needs a lower and a higher end, and at most 100 000 steps.")
    return course


def course_of(worksheet: Worksheet) -> CourseSettings:
    return CourseSettings.model_validate(worksheet.course)


def of_study(state: StudyState) -> CourseSettings:
    """Those that a study has already."""
    return CourseSettings(letters=dict(state.letters), rising=state.rising, level=state.level)


def held_to(course: CourseSettings, state: StudyState) -> StudyState:
    """What a copy begins with, in the letters and the angles of the course."""
    return replace(
        state,
        letters=course.letters,
        rising=course.rising,
        level=course.level,
        fits=tuple(_in_angles(fit, course.settled) for fit in state.fits),
    )


def _in_angles(fit: FitState, course: Course) -> FitState:
    options = {**fit.options, **course.options_for(fit.family)}
    if options == dict(fit.options):
        return fit
    # Numbers that belong to other angles are read off the readings anew.
    return replace(fit, options=options, fixed={}, bounds={}, values={})


def settle(worksheet: Worksheet, course: CourseSettings) -> None:
    """From now on the copies hold to these settings; what students have made stays as it is."""
    _newer(worksheet).update(
        letters=course.letters, rising=course.rising, level=course.level, course=stored(course.settled)
    )


def release(worksheet: Worksheet) -> None:
    """Nothing is settled any more: the copies are their students' own."""
    _newer(worksheet).update(course=None)


def stored(course: Course) -> object:
    """As the database keeps it."""
    return _COURSES.dump_python(course, mode="json")


def _newer(worksheet: Worksheet) -> QuerySet[Study]:
    """Its copies, each a version further, so that windows in which they are open see it."""
    copies = Study.objects.filter(copy__worksheet=worksheet)
    copies.update(version=F("version") + 1, settled=F("version") + 1, added_from=None)
    return copies
