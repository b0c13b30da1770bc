"""Links by which others look at a study: read-only addresses that nobody can guess."""

from __future__ import annotations

import secrets
from datetime import date, timedelta
from hashlib import sha256

from django.db.models import F, Q
from django.utils import timezone

from ridge.studies.models import Link, Study

MOST = 30
"""Links of one study that hold at the same time."""
RANDOM = 24
"""Bytes, 192 random bits."""


class TooManyLinks(Exception):
    """The message says what to do."""


def new_link(study: Study, called: str, ends: date | None) -> tuple[Link, str]:
    """A link, and its token, which is told this once. Raises TooManyLinks."""
    if study.links.count() >= MOST:
        raise TooManyLinks(f"The study has {MOST} links already. Withdraw one that is not needed any more.")
    token = secrets.token_urlsafe(RANDOM)
    return Link.objects.create(study=study, called=called, ends=ends, digest=digest_of(token)), token


def digest_of(token: str) -> str:
    return sha256(token.encode()).hexdigest()


def link_of(digest: str) -> Link | None:
    """The link, as long as it holds: to the end of its last day, in the time zone that is last on earth to end it."""
    found = Link.objects.filter(Q(ends=None) | Q(ends__gte=_earliest_today()), digest=digest, study__deleted=None)
    return found.select_related("study").first()


def _earliest_today() -> date:
    """The date twelve hours west of Greenwich."""
    return (timezone.now() - timedelta(hours=12)).date()


def note_opened(link: Link) -> None:
    """How often, not by whom."""
    Link.objects.filter(pk=link.pk).update(opened=F("opened") + 1)
