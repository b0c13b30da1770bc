"""Whose study it is, and who may look at it. Every request of the API passes ``admit`` before anything else is done with it."""

from __future__ import annotations

import uuid
from collections.abc import Callable

from django.http import HttpRequest

from ridge.accounts.guests import current_user
from ridge.studies.api.withheld import note_withheld
from ridge.studies.content.looking import looks_at
from ridge.studies.models import Link, Study


class NotYours(Exception):
    """No such study, or not this user's: the answer is the same."""


_ways: list[Callable[[HttpRequest, Study], object | None]] = [looks_at]
"""In which somebody who is not the owner may look at a study: each tells by what, or None."""


def also_by(way: Callable[[HttpRequest, Study], object | None]) -> None:
    """One way more."""
    _ways.append(way)


def admit(request: HttpRequest) -> None:
    """Raise NotYours where the address names a study that is neither the asker's nor shown to them by a link. What is no key at all is
    refused later, as a request that cannot be read."""
    match = request.resolver_match
    named = match.kwargs.get("study_id") if match else None
    if named is None:
        return
    try:
        key = uuid.UUID(str(named))
    except ValueError:
        return
    user = current_user(request)
    study = Study.objects.filter(pk=key).first()
    if study is None:
        raise NotYours
    request.study = study  # type: ignore[attr-defined]
    if user is not None and study.owner_id == user.pk:
        note_withheld(request, study)
        return
    by = next((found for way in _ways if (found := way(request, study)) is not None), None)
    if by is None:
        raise NotYours
    request.looks_by = by  # type: ignore[attr-defined]
    if isinstance(by, Link):  # who is shown a copy by its student is told no more than the student
        note_withheld(request, study)


def only_looks(request: HttpRequest) -> bool:
    """Whether an admitted request is of somebody who is shown the study, not of its owner."""
    return getattr(request, "looks_by", None) is not None


def link_used(request: HttpRequest) -> Link | None:
    """By which link an admitted request looks; None for the study's owner, and for who looks in another way."""
    by = getattr(request, "looks_by", None)
    return by if isinstance(by, Link) else None


def own_study(request: HttpRequest, *, binned: bool = False) -> Study:
    """The study that an admitted request of its owner is about: whoever looks by a link is refused. Raises NotYours, also for one in the bin,
    unless ``binned``."""
    if only_looks(request):
        raise NotYours
    return _study(request, binned)


def seen_study(request: HttpRequest) -> Study:
    """The study that an admitted request is about, also of whoever looks by a link: for what neither changes it nor tells more than it
    shows. Raises NotYours."""
    return _study(request, False)


def _study(request: HttpRequest, binned: bool) -> Study:
    study: Study | None = getattr(request, "study", None)
    if study is None or (study.deleted is not None and not binned):
        raise NotYours
    return study
