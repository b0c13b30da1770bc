"""Whose study it is: every query goes through the owner."""

from __future__ import annotations

import uuid

from django.http import HttpRequest

from ridge.accounts.guests import current_user
from ridge.studies.models import Study


class NotYours(Exception):
    """No such study, or not this user's: the answer is the same."""


def own_study(request: HttpRequest, study_id: uuid.UUID, *, binned: bool = False) -> Study:
    user = current_user(request)
    study = Study.objects.filter(pk=study_id, owner=user).first() if user else None
    if study is None or (study.deleted is not None and not binned):
        raise NotYours
    return study
