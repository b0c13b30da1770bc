"""The API of the picture under a plot: opened, looked at, and a line in it followed."""

from __future__ import annotations

import uuid
from typing import Annotated, Any, get_args

import numpy as np
from django.http import HttpRequest, HttpResponse
from ninja import Body, File, Router, Schema, UploadedFile
from pydantic import Field

from ridge.core.errors import OutsideSense
from ridge.core.numerals import capital
from ridge.pictures import PictureRefused, follow_line, open_picture
from ridge.pictures.line_following import FEWEST, MOST
from ridge.pictures.opening import MOST_BYTES, MediaType
from ridge.studies.api.admission import own_study, seen_study
from ridge.studies.api.sent_files import gives_file
from ridge.studies.content.changes import ChangeRefused
from ridge.studies.content.changes.picturing import FINER, read_laid, written
from ridge.studies.content.fields import Digest, Pixel
from ridge.studies.content.kept_pictures import as_written, keep, kept
from ridge.studies.content.state import MeasuredOnPicture, StudyState
from ridge.studies.content.store import read_state
from ridge.studies.words.picture_words import FollowedOut, MeasuredOut, followed_out, measured
from ridge.studies.words.schemas import Message

router = Router(tags=["pictures"])
GONE = "That picture is not here. Open its file again."


class OpenedOut(Schema):
    """A picture that can be laid under the plot; ``remark``: what was left out of the file."""

    digest: str
    media_type: MediaType
    width: int
    height: int
    remark: str


class LineIn(Schema):
    """Where a line was pressed on, and where it ends if that was said, in pixels; ``count`` of picks along it; by how many pixels the press
    may lie beside it."""

    start: Annotated[list[Pixel], Field(min_length=2, max_length=2)]
    stop: Annotated[list[Pixel], Field(min_length=2, max_length=2)] | None = None
    count: Annotated[int, Field(ge=FEWEST, le=MOST)] = 40
    near: Annotated[float, Field(gt=0, le=12)] = 4


@router.post("/studies/{study_id}/pictures", response={201: OpenedOut, 400: Message, 404: Message})
def open_file(request: HttpRequest, study_id: uuid.UUID, file: File[UploadedFile]) -> Any:
    """Take a picture from its file: decoded, turned as it was taken, and written anew without anything but its pixels. The study is
    changed only by ``put_picture``."""
    study = own_study(request)
    if (file.size or 0) > MOST_BYTES:
        return 400, Message(
            message=f"The picture has {(file.size or 0) / 1e6:.0f} MB; {MOST_BYTES // 1_000_000} at most."
        )
    try:
        picture = open_picture(file.read())
        found = as_written(picture)
        keep(study.owner, found)
    except PictureRefused as refused:
        return 400, Message(message=str(refused))
    return 201, OpenedOut(
        digest=found.digest, media_type=found.media_type, width=picture.width, height=picture.height, remark=picture.remark,
    )  # fmt: skip


@router.get(
    "/studies/{study_id}/pictures/{digest}", response={404: Message}, openapi_extra=gives_file(*get_args(MediaType))
)
def look_at(request: HttpRequest, study_id: uuid.UUID, digest: Digest) -> Any:
    """The picture itself, for its owner alone."""
    found = kept(seen_study(request).owner, digest)
    if found is None:
        return 404, Message(message=GONE)
    response = HttpResponse(found.data, content_type=found.media_type)
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    response["Content-Security-Policy"] = "default-src 'none'; sandbox"
    return response


@router.post("/studies/{study_id}/line", response={200: FollowedOut, 400: Message, 404: Message})
def follow(request: HttpRequest, study_id: uuid.UUID, body: LineIn) -> Any:
    """Places along the line that was pressed on. Stores nothing."""
    study = own_study(request)
    state = read_state(study)
    found = kept(study.owner, state.picture.digest) if state.picture else None
    if state.picture is None or found is None:
        return 400, Message(message=GONE)
    try:
        read_laid(state.picture, state)
        stop = (body.stop[0], body.stop[1]) if body.stop else None
        line = follow_line(open_picture(found.data), (body.start[0], body.start[1]), stop, body.count, body.near)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    except OutsideSense as problem:
        where = {"start": "This place", "stop": "The second place"}.get(problem.name, capital(problem.name))
        return 400, Message(message=f"{where} {problem.reason}")
    return followed_out(line, _cells(state, line.points))


@router.post("/studies/{study_id}/measured", response={200: MeasuredOut, 400: Message, 404: Message})
def measure(request: HttpRequest, study_id: uuid.UUID, body: Body[MeasuredOnPicture]) -> Any:
    """A length between two places of the picture, or an angle at the second of three. Stores nothing."""
    try:
        return measured(read_state(own_study(request)), body)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))


def _cells(state: StudyState, pixels: np.ndarray) -> list[list[str]]:
    """Places as they are written into the x and the y column."""
    assert state.picture is not None
    found = read_laid(state.picture, state)
    units = [column.unit if (column := state.column(role)) else "" for role in ("x", "y")]
    return [
        [
            written(value, (step * abs(value) if log else step) / FINER, unit)
            for value, step, log, unit in zip(place, found.steps, found.log, units, strict=True)
        ]
        for place in found.to_values(pixels).tolist()
    ]
