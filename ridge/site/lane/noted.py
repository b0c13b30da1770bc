"""What waits in the long lane, noted where every process can see it: how far it is, and that it is no longer wanted."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Annotated

from django.utils import timezone
from pydantic import StringConstraints

from ridge.accounts.models import User, Waiting

TICKET = re.compile(r"[0-9A-Za-z-]{16,40}")
Ticket = Annotated[str, StringConstraints(pattern=f"^{TICKET.pattern}$")]
"""A name that whoever asks gives a request, to look after it."""
FORGOTTEN = timedelta(minutes=10)
STOPPED = "Stopped, since it is no longer wanted."


class Note:
    """The note of one request."""

    def __init__(self, row: Waiting) -> None:
        self._row = row

    def waits(self, ahead: int) -> bool:
        """Note how many are before it; whether it was stopped meanwhile."""
        Waiting.objects.filter(pk=self._row.pk).exclude(ahead=ahead).update(ahead=ahead)
        return self._stopped()

    def is_made(self) -> bool:
        """Note that its turn has come; whether it was stopped meanwhile."""
        Waiting.objects.filter(pk=self._row.pk, made_since=None).update(ahead=0, made_since=timezone.now())
        return self._stopped()

    def _stopped(self) -> bool:
        return not Waiting.objects.filter(pk=self._row.pk, stopped=False).exists()


@contextmanager
def note(ticket: str, owner: User | None) -> Iterator[Note | None]:
    """Note a request under its ticket for as long as it waits; nothing without one. Those of crashed servers are let go."""
    if owner is None or not TICKET.fullmatch(ticket) or Waiting.objects.filter(ticket=ticket).exists():
        yield None
        return
    Waiting.objects.filter(since__lt=timezone.now() - FORGOTTEN).delete()
    row = Waiting.objects.create(ticket=ticket, owner=owner)
    try:
        yield Note(row)
    finally:
        row.delete()
