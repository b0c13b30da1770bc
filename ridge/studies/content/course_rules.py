"""Whether a change keeps to what the course of a copy has settled."""

from __future__ import annotations

from ridge.core.catalogue import ENTRIES, entry_of
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.course import Course
from ridge.studies.content.state import FitState, StudyState


def check_course(before: StudyState, after: StudyState) -> None:
    """Raises ChangeRefused. What was there before may stay."""
    course = before.course
    if course is None:
        return
    for what, one, other in (
        ("the level of intervals", before.level, after.level),
        ("the letters of parameters", before.letters, after.letters),
        ("the order of terms", before.rising, after.rising),
    ):
        if one != other:
            raise ChangeRefused(f"Your course has settled {what}.")
    known = {fit.letter: fit for fit in before.fits}
    for fit in after.fits:
        _check_fit(course, known.get(fit.letter), fit)


def _check_fit(course: Course, before: FitState | None, after: FitState) -> None:
    was = entry_of(before.family, before.options) if before else None
    entry = entry_of(after.family, after.options)
    if entry is not None and entry != was and not course.offers(entry.key):
        names = ", ".join(ENTRIES[key].form.name for key in course.models)
        raise ChangeRefused(f"Your course has these models: {names}.")
    wanted = course.options_for(after.family)
    if wanted and (before is None or after.options != before.options):
        given = after.options.get("degrees", False)
        if given != course.degrees:
            raise ChangeRefused(f"Your course counts angles in {'degrees' if course.degrees else 'radians'}.")
    if course.decimals is not None and after.decimals != (before.decimals if before else {}):
        raise ChangeRefused("Your course has settled the decimals.")
