"""The bytes of pictures: kept once for each owner, and never given to anyone else."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from typing import cast

from django.db.models import Sum

from ridge.accounts.models import User
from ridge.pictures import Picture, PictureRefused
from ridge.pictures.opening import MediaType
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.state import PictureState
from ridge.studies.models import KeptPicture, Revision, Study

MOST_KEPT = 200_000_000
"""Bytes of all pictures of one owner."""
LARGEST_KEPT = 12_000_000
"""Bytes of one picture as it is written: a study file that holds it can still be opened."""


@dataclass(frozen=True)
class WrittenPicture:
    """A picture as it is kept."""

    digest: str
    media_type: MediaType
    data: bytes


def as_written(picture: Picture) -> WrittenPicture:
    """Raises PictureRefused for one that stays too large."""
    data, media_type = picture.written
    if len(data) > LARGEST_KEPT:
        said = f"{len(data) / 1e6:.0f} MB as {media_type.removeprefix('image/').upper()}"
        raise PictureRefused(
            f"The picture has {said}, {LARGEST_KEPT // 1_000_000} at most: make it smaller, or save it as JPEG."
        )
    return WrittenPicture(hashlib.sha256(data).hexdigest(), media_type, data)


def keep(owner: User, written: WrittenPicture) -> None:
    """Keep a picture for somebody; one that is there already is not kept twice. Raises PictureRefused where there is no more room."""
    if KeptPicture.objects.filter(owner=owner, digest=written.digest).exists():
        return
    held = KeptPicture.objects.filter(owner=owner).aggregate(all=Sum("size"))["all"] or 0
    if held + len(written.data) > MOST_KEPT:
        raise PictureRefused(
            f"Your pictures have {held / 1e6:.0f} MB already; {MOST_KEPT // 1_000_000} in all at most."
        )
    KeptPicture.objects.get_or_create(
        owner=owner, digest=written.digest,
        defaults={"media_type": written.media_type, "data": written.data, "size": len(written.data)},
    )  # fmt: skip


def kept(owner: User, digest: str) -> WrittenPicture | None:
    """The bytes of a picture of this owner."""
    found = KeptPicture.objects.filter(owner=owner, digest=digest).first()
    return None if found is None else WrittenPicture(digest, cast(MediaType, found.media_type), bytes(found.data))


def forget_pictures(owner: User) -> None:
    """Let go the pictures that neither a study of this owner nor its history names."""
    for digest in KeptPicture.objects.filter(owner=owner).values_list("digest", flat=True):
        changes = Revision.objects.filter(study__owner=owner)
        named = Study.objects.filter(owner=owner, picture__digest=digest).exists() or any(
            changes.filter(**{f"{side}__icontains": digest}).exists() for side in ("change", "inverse")
        )
        if not named:
            KeptPicture.objects.filter(owner=owner, digest=digest).delete()


def check_kept(owner_id: int, before: PictureState | None, after: PictureState | None) -> None:
    """Raises ChangeRefused where a study is to get a picture that is not there."""
    if after is None or (before is not None and before.digest == after.digest):
        return
    if not KeptPicture.objects.filter(owner_id=owner_id, digest=after.digest).exists():
        raise ChangeRefused("That picture is not here. Open its file again.")
