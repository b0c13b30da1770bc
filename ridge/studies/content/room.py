"""How much one person may keep: studies, and bytes of them with their histories."""

from __future__ import annotations

from django.conf import settings
from django.db.models import Sum

from ridge.accounts.models import User
from ridge.core.numerals import group
from ridge.studies.models import Study

LOOKED_AFTER = 1_000_000
"""Bytes that a study grows by until it is looked again how much its owner keeps."""


class NoRoom(Exception):
    """The message says what there is too much of and how to make room."""


def refuse_more_studies(owner: User) -> None:
    """Raises NoRoom where no study more may be made."""
    if Study.objects.filter(owner=owner).count() >= settings.STUDIES_EACH:
        raise NoRoom(
            f"You keep {group(str(settings.STUDIES_EACH))} studies with those in the bin, as many as there may be. Empty the bin to make room."
        )


def take_room(study: Study, size: int) -> None:
    """Note that a study has grown by so many bytes; its row is still to be saved. Raises NoRoom where its owner keeps too much."""
    before, study.size = study.size, study.size + size
    if before // LOOKED_AFTER == study.size // LOOKED_AFTER:
        return
    others = Study.objects.filter(owner=study.owner_id).exclude(pk=study.pk).aggregate(all=Sum("size"))["all"] or 0
    if others + study.size > settings.BYTES_EACH:
        raise NoRoom(
            f"Your studies and their histories have {(others + study.size) / 1e6:.0f} MB; {settings.BYTES_EACH // 1_000_000} at most. "
            "Save what you no longer need as a file, put it into the bin and empty the bin."
        )
