"""Requests that were carried out, known by their keys for a day."""

from __future__ import annotations

from datetime import timedelta

from django.utils import timezone

from ridge.accounts.models import User
from ridge.studies.models import AnsweredRequest, Study

KEPT = timedelta(days=1)


def carried_out(study: Study, key: str) -> bool:
    """Whether a request of this key has changed the study already."""
    return bool(key) and AnsweredRequest.objects.filter(study=study, key=key).exists()


def made_by(owner: User, key: str) -> Study | None:
    """The study that a request of this key has made."""
    known = AnsweredRequest.objects.filter(owner=owner, key=key).select_related("study").first() if key else None
    return known.study if known else None


def remember(study: Study, key: str) -> None:
    """Note a request that was carried out; call it in the transaction that carries it out. Those of yesterday are let go."""
    if key:
        AnsweredRequest.objects.filter(owner=study.owner, made__lt=timezone.now() - KEPT).delete()
        AnsweredRequest.objects.create(owner=study.owner, study=study, key=key)
