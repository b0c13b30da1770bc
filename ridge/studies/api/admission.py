"""Whose study it is. Every request of the API passes ``admit`` before anything else is done with it."""

from __future__ import annotations

import uuid

from django.http import HttpRequest

from ridge.accounts.guests import current_user
from ridge.studies.models import Study


class NotYours(Exception):
    """No such study, or not this user's: the answer is the same."""


def admit(request: HttpRequest) -> None:
    """Raise NotYours where the address names a study that is not the asker's. What is no key at all is refused later, as a
    request that cannot be read."""
    match = request.resolver_match
    named = match.kwargs.get("study_id") if match else None
    if named is None:
        return
    try:
        key = uuid.UUID(str(named))
    except ValueError:
        return
    user = current_user(request)
    try:
        request.study = Study.objects.get(pk=key, owner=user) if user else None  # type: ignore[attr-defined]
    except Study.DoesNotExist:
        raise NotYours from None
    if user is None:
        raise NotYours


def own_study(request: HttpRequest, *, binned: bool = False) -> Study:
    """The study that an admitted request is about. Raises NotYours for one in the bin, unless ``binned``."""
    study: Study | None = getattr(request, "study", None)
    if study is None or (study.deleted is not None and not binned):
        raise NotYours
    return study
