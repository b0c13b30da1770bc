"""Studies in the database: reading a state, committing changes, undo and redo."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import fields
from typing import Any

from django.db import connection, transaction
from django.utils import timezone
from pydantic import TypeAdapter

from ridge.accounts.models import User
from ridge.core.numerals import group
from ridge.studies.content.changes import Change, Outcome, read_change
from ridge.studies.content.changes.cells import InsertRows, SetCells
from ridge.studies.content.changes.generated import GenerateReadings
from ridge.studies.content.changes.rows import SortRows, WriteCells
from ridge.studies.content.changes.sampled import AddSamples
from ridge.studies.content.changes.tables import TakeTable
from ridge.studies.content.changes.whole_table import PutTable
from ridge.studies.content.course import Course
from ridge.studies.content.kept_pictures import WrittenPicture, check_kept, forget_pictures, keep
from ridge.studies.content.readable import apply_checked
from ridge.studies.content.repeated import carried_out, made_by, remember
from ridge.studies.content.room import refuse_more_studies, take_room
from ridge.studies.content.state import (
    WHOLE_REPORT,
    AnswerState,
    ColumnSettings,
    ColumnState,
    FitState,
    PictureState,
    ReportPart,
    StudyState,
    with_every_part,
)
from ridge.studies.models import Answer, Assumed, Column, Revision, SetAside, Study, StudyFit
from ridge.studies.recent import Recent


class StaleVersion(Exception):
    """The request was made on a version that is no longer the newest."""


class NothingToStep(Exception):
    """Undo at the beginning of the history, or redo at its end."""


_OF_COLUMNS = [one.name for one in fields(ColumnSettings)]
_OF_ANSWERS = [one.name for one in fields(AnswerState)]
_FITS: TypeAdapter[FitState] = TypeAdapter(FitState)
_PICTURES: TypeAdapter[PictureState] = TypeAdapter(PictureState)
_COURSES: TypeAdapter[Course] = TypeAdapter(Course)
OF_A_STATE = 2000
"""Cells that weigh as much in the memory as all else of a state."""
_recent: Recent[tuple[uuid.UUID, int], StudyState] = Recent(1_500_000)  # cells, some 100 bytes each


def read_state(study: Study) -> StudyState:
    """The content of a study at its version; where somebody changes it while its tables are read, at the newer one, which ``study`` then has
    too."""
    known = _recent.get((study.pk, study.version))
    while known is None:
        found = _read_tables(study)
        # Within a transaction the study is locked, or new.
        if connection.in_atomic_block or Study.objects.filter(pk=study.pk, version=study.version).exists():
            known = found
            _remember(study, known)
        else:
            study.refresh_from_db()
            known = _recent.get((study.pk, study.version))
    return known


def _remember(study: Study, state: StudyState) -> None:
    _recent.put((study.pk, study.version), state, OF_A_STATE + state.row_count * len(state.columns))


def _read_tables(study: Study) -> StudyState:
    return StudyState(
        title=study.title,
        question=study.question,
        absolute_errors=study.absolute_errors,
        level=study.level,
        columns=tuple(
            ColumnState(**{name: getattr(c, name) for name in _OF_COLUMNS}, cells=tuple(c.cells))
            for c in study.columns.all()
        ),
        aside={mark.row: mark.reason for mark in study.aside.all()},
        assumed={mark.row: mark.reason for mark in study.assumed.all()},
        plot=study.plot,
        letters=study.letters,
        rising=study.rising,
        author=study.author,
        date=study.date,
        # Kept before a part was thought of, a report has it all the same, not shown.
        report=with_every_part(ReportPart(**part) for part in study.report) if study.report else WHOLE_REPORT,
        fits=tuple(_read_fit(fit) for fit in study.fits.all()),
        answers=tuple(AnswerState(**{name: getattr(a, name) for name in _OF_ANSWERS}) for a in study.answers.all()),
        picture=_PICTURES.validate_python(study.picture) if study.picture else None,
        course=None if study.course is None else _COURSES.validate_python(study.course),
    )


def _read_fit(fit: StudyFit) -> FitState:
    return FitState(letter=fit.letter, family=fit.family, **fit.settings)


def _stored_fit(fit: FitState) -> dict[str, Any]:
    stored = _FITS.dump_python(fit, mode="json", exclude_defaults=True)
    return {"letter": stored.pop("letter"), "family": stored.pop("family"), "settings": stored}


@transaction.atomic
def create_study(owner: User, state: StudyState, request_key: str = "", picture: WrittenPicture | None = None) -> Study:
    """A new study with an empty history; the one that was made already, where the request is repeated. ``picture``: that under its plot,
    where its owner may not have it yet. Raises NoRoom, and PictureRefused where there is no more room for it."""
    # One after the other for each owner: else the same request, sent twice at once, would be carried out twice.
    User.objects.select_for_update().get(pk=owner.pk)
    if known := made_by(owner, request_key):
        return known
    refuse_more_studies(owner)
    if picture is not None:
        keep(owner, picture)
    study = Study.objects.create(owner=owner, title=state.title)
    take_room(study, sum(len(cell) + 4 for column in state.columns for cell in column.cells))
    _write(study, None, state)
    study.save()
    remember(study, request_key)
    return study


@transaction.atomic
def commit(
    study_id: uuid.UUID,
    version: int,
    change: Change,
    request_key: str = "",
    check: Callable[[StudyState, StudyState], None] = lambda before, after: None,
) -> tuple[Study, StudyState, StudyState]:
    """Apply a change as one revision. Returns the study, its state before and after. ``check``: what else is asked of the two; it raises
    ChangeRefused.

    A request that is repeated is answered with the newest state, not carried out again; so it is with ``step`` and ``go_to``.
    Raises StaleVersion, ChangeRefused, NoRoom.
    """
    study = Study.objects.select_for_update().get(pk=study_id)
    before = read_state(study)
    if carried_out(study, request_key):
        return study, before, before
    if study.version != version and not _goes_on(study, version, change):
        raise StaleVersion
    checked = apply_checked(change, before)
    outcome = checked.outcome
    check(before, outcome.state)
    take_room(study, checked.size)
    check_kept(study.owner_id, before.picture, outcome.state.picture)
    study.revisions.filter(number__gt=study.position).delete()
    study.position += 1
    Revision.objects.create(
        study=study, number=study.position, label=outcome.label[:120], change=checked.change, inverse=checked.inverse
    )
    _advance(study, before, outcome, request_key)
    return study, before, outcome.state


def _goes_on(study: Study, version: int, change: Change) -> bool:
    """Whether nothing but readings of an instrument came since a version, and a change leaves those rows alone."""
    if study.added_from is None or not _only_readings_since(study, version):
        return False
    if isinstance(change, SetCells):
        return change.row + len(change.block) <= study.added_from
    if isinstance(change, WriteCells):
        return max(cell.row for cell in change.cells) < study.added_from
    return not isinstance(change, TakeTable | PutTable | GenerateReadings | SortRows | InsertRows | AddSamples)


def _only_readings_since(study: Study, version: int) -> bool:
    return study.added_from is not None and study.settled <= version < study.version


@transaction.atomic
def add_samples(study_id: uuid.UUID, change: AddSamples) -> tuple[Study, StudyState]:
    """Add readings of an instrument to whatever the study is now; those of the same run become one revision. Raises ChangeRefused."""
    study = Study.objects.select_for_update().get(pk=study_id)
    before = read_state(study)
    checked = apply_checked(change, before)
    outcome = checked.outcome
    take_room(study, checked.size)
    last = study.revisions.filter(number=study.position).first()
    known = read_change(last.change) if last and last.change.get("kind") == "add_samples" else None
    joined = known.joined(change) if isinstance(known, AddSamples) else None
    undone = read_change(last.inverse) if last and joined else None
    study.revisions.filter(number__gt=study.position).delete()
    if last and joined is not None and isinstance(undone, AddSamples) and isinstance(outcome.inverse, AddSamples):
        # Rows that were there before and are written over come back too; those that were made are cut off.
        over = outcome.inverse.columns
        back = [
            one.model_copy(update={"cells": (*one.cells, *more.cells)})
            for one, more in zip(undone.columns, over, strict=True)
        ]
        last.change, last.inverse = joined.stored(), undone.model_copy(update={"columns": back}).stored()
        last.label = f"take {group(str(len(joined.columns[0].cells)))} readings"
        last.save()
    else:
        study.position += 1
        Revision.objects.create(
            study=study, number=study.position, label=outcome.label, change=checked.change, inverse=checked.inverse
        )  # fmt: skip
    _advance(study, before, outcome, "", added_from=change.at)
    return study, outcome.state


@transaction.atomic
def step(
    study_id: uuid.UUID, version: int, direction: int, request_key: str = ""
) -> tuple[Study, StudyState, StudyState]:
    """Undo (direction −1) or redo (+1) one revision. Raises StaleVersion, NothingToStep."""
    study = Study.objects.select_for_update().get(pk=study_id)
    before = read_state(study)
    if carried_out(study, request_key):
        return study, before, before
    # Readings that came meanwhile are the step that is undone.
    if study.version != version and not _only_readings_since(study, version):
        raise StaleVersion
    number = study.position if direction < 0 else study.position + 1
    revision = study.revisions.filter(number=number).first()
    if revision is None:
        raise NothingToStep
    outcome = read_change(revision.inverse if direction < 0 else revision.change).apply(before)
    study.position += direction
    _advance(study, before, outcome, request_key)
    return study, before, outcome.state


@transaction.atomic
def go_to(
    study_id: uuid.UUID, version: int, number: int, request_key: str = ""
) -> tuple[Study, StudyState, StudyState]:
    """Undo or redo until exactly the first ``number`` revisions are in force. Raises StaleVersion, NothingToStep."""
    study = Study.objects.select_for_update().get(pk=study_id)
    before = state = read_state(study)
    if carried_out(study, request_key):
        return study, before, before
    if study.version != version:
        raise StaleVersion
    if number == study.position or number < 0 or number > study.revisions.count():
        raise NothingToStep
    back = number < study.position
    if back:
        steps = study.revisions.filter(number__gt=number, number__lte=study.position).order_by("-number")
    else:
        steps = study.revisions.filter(number__gt=study.position, number__lte=number)
    outcome = None
    for revision in steps.iterator(chunk_size=20):
        outcome = read_change(revision.inverse if back else revision.change).apply(state)
        state = outcome.state
    if outcome is None:
        raise NothingToStep
    study.position = number
    _advance(study, before, outcome, request_key)
    return study, before, state


def step_labels(study: Study) -> tuple[str | None, str | None]:
    """What undo and redo would do, in words; None where there is nothing."""
    labels = dict(
        study.revisions.filter(number__in=(study.position, study.position + 1)).values_list("number", "label")
    )
    return labels.get(study.position), labels.get(study.position + 1)


def _advance(
    study: Study, before: StudyState, outcome: Outcome, request_key: str, added_from: int | None = None
) -> None:
    study.version += 1
    if added_from is None:
        study.settled, study.added_from = study.version, None
    elif study.added_from is None:
        # The first readings since: all before them is settled, also in a study of which nobody noted it.
        study.settled, study.added_from = study.version - 1, added_from
    else:
        study.added_from = min(added_from, study.added_from)
    _write(study, before, outcome.state)
    remember(study, request_key)
    # Only what is really stored may be remembered.
    transaction.on_commit(lambda: _remember(study, outcome.state))


def _write(study: Study, before: StudyState | None, after: StudyState) -> None:
    """Bring the tables to the new state; what did not change is not touched. A new study (without ``before``) is still to be saved."""
    changed = {name: value for name, value in _of_study(after).items() if getattr(study, name) != value}
    for name, value in changed.items():
        setattr(study, name, value)
    if before is not None:
        study.save(update_fields=[*changed, "version", "settled", "added_from", "position", "size", "changed"])
    if before is None or before.columns is not after.columns:
        old = {column.key: column for column in before.columns} if before else {}
        if gone := set(old) - {column.key for column in after.columns}:
            study.columns.filter(key__in=gone).delete()
        placed = [column.key for column in before.columns] if before else []
        for place, column in enumerate(after.columns):
            known = old.get(column.key)
            if known is None:
                Column.objects.create(study=study, place=place, cells=list(column.cells), **_settings_of(column))
            elif known is not column or placed[place : place + 1] != [column.key]:
                cells = {} if known.cells == column.cells else {"cells": list(column.cells)}
                study.columns.filter(key=column.key).update(place=place, **cells, **_settings_of(column))
    if before is None or before.aside != after.aside:
        study.aside.all().delete()
        SetAside.objects.bulk_create([SetAside(study=study, row=row, reason=why) for row, why in after.aside.items()])
    if before is None or before.assumed != after.assumed:
        study.assumed.all().delete()
        Assumed.objects.bulk_create([Assumed(study=study, row=row, reason=why) for row, why in after.assumed.items()])
    if before is None or before.fits != after.fits:
        study.fits.all().delete()
        StudyFit.objects.bulk_create(
            [StudyFit(study=study, place=place, **_stored_fit(fit)) for place, fit in enumerate(after.fits)]
        )
    if before is None or before.answers != after.answers:
        study.answers.all().delete()
        Answer.objects.bulk_create(
            [Answer(study=study, place=place, **vars(a)) for place, a in enumerate(after.answers)]
        )


def _of_study(state: StudyState) -> dict[str, Any]:
    """What the study's own row keeps of a state."""
    return {
        "title": state.title,
        "rows": state.row_count,
        "question": state.question,
        "absolute_errors": state.absolute_errors,
        "level": state.level,
        "plot": dict(state.plot),
        "letters": dict(state.letters),
        "rising": state.rising,
        "author": state.author,
        "date": state.date,
        "report": [] if state.report == WHOLE_REPORT else [vars(part) for part in state.report],
        "picture": _PICTURES.dump_python(state.picture, mode="json", exclude_defaults=True) if state.picture else {},
    }


def _settings_of(column: ColumnState) -> dict[str, Any]:
    return {name: getattr(column, name) for name in _OF_COLUMNS}


def delete(study: Study) -> None:
    """Move a study to the bin."""
    study.deleted = timezone.now()
    study.save(update_fields=["deleted"])


def empty_bin(owner: User) -> None:
    """Delete for good what is in somebody's bin, and the pictures that no other study or history of theirs names."""
    Study.objects.filter(owner=owner, deleted__isnull=False).delete()
    forget_pictures(owner)


def restore(study: Study) -> None:
    """Take a study out of the bin."""
    study.deleted = None
    study.save(update_fields=["deleted"])
