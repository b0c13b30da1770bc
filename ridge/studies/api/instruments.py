"""The API of instruments: runs of those that Ridge has, and readings that others post with a key."""

from __future__ import annotations

import secrets
import uuid
from collections.abc import Callable
from hashlib import sha256
from typing import Annotated, Any

from django.core.cache import cache
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema
from pydantic import Field, FiniteFloat, StringConstraints

from ridge.core.errors import OutsideSense
from ridge.core.numerals import capital
from ridge.instruments import INSTRUMENTS, Wanted
from ridge.studies.api.admission import own_study
from ridge.studies.api.studies import RequestKey, study_json, study_out
from ridge.studies.content.changes import ChangeRefused
from ridge.studies.content.fields import Cell, Serial, Version
from ridge.studies.content.runs import (
    MOST_POSTED,
    NoSuchKey,
    PostedRow,
    new_key,
    post,
    reveal,
    start,
    take,
    take_single,
)
from ridge.studies.content.store import StaleVersion, read_state
from ridge.studies.models import Study
from ridge.studies.words.instrument_words import InstrumentOut, KeyOut, RunOut, instrument_out, key_out, run_out
from ridge.studies.words.schemas import ConflictOut, Message, StudyOut

router = Router(tags=["instruments"])
POSTS_A_SECOND = 20
"""Requests that one key may make in a second."""
WRONG_KEY = "This key is wrong, or was withdrawn. Make a new one in the study, under “Instrument”."


class RunIn(Schema):
    """A run that is to begin: which instrument, how many seconds from one reading to the next, how many at most, of which channels."""

    instrument: Annotated[str, StringConstraints(max_length=20)]
    interval: FiniteFloat = 1.0
    most: Annotated[int, Field(ge=1, le=10_000)] = 10_000
    channels: Annotated[list[Annotated[str, StringConstraints(max_length=20)]], Field(max_length=8)] = []


class SingleIn(Schema):
    """One reading now, at an x as typed."""

    instrument: Annotated[str, StringConstraints(max_length=20)]
    x: Cell


class RevealIn(Schema):
    """Of which channel the true curve is wanted, the first one if empty."""

    version: Version
    channel: Annotated[str, StringConstraints(max_length=20)] = ""
    request_key: RequestKey = ""


class NewsOut(Schema):
    """The last run, if there was one, and the study where it is newer than the version that was asked with."""

    run: RunOut | None
    study: StudyOut | None


class NewKeyOut(Schema):
    """A key, shown this once, and where readings are posted with it."""

    key: str
    address: str


class PostedIn(Schema):
    """A reading that is posted: numbers, or texts as they are typed into a cell; y null where nothing was read."""

    x: FiniteFloat | Cell
    y: FiniteFloat | Cell | None = None
    series: Annotated[str, StringConstraints(max_length=100)] = ""


class PostIn(Schema):
    readings: Annotated[list[PostedIn], Field(max_length=MOST_POSTED)]


class PostedOut(Schema):
    """How many readings were added, how many rows the study has now, and what is odd about them; empty for nothing."""

    added: int
    rows: int
    remark: str


@router.get("/instruments", response=list[InstrumentOut])
def instruments(request: HttpRequest) -> list[InstrumentOut]:
    """Every instrument that Ridge has."""
    return [instrument_out(one) for one in INSTRUMENTS.values()]


@router.get("/studies/{study_id}/run", response={200: NewsOut, 400: Message, 404: Message})
def news(request: HttpRequest, study_id: uuid.UUID, version: Version) -> Any:
    """What is new since a version: asked every so often while an instrument is read. What a simulated one has read by now is taken."""
    own_study(request)
    return _news(request, study_id, version, lambda: take(study_id, timezone.now()))


def _news(request: HttpRequest, study_id: uuid.UUID, version: int | None, act: Callable[[], Any]) -> Any:
    try:
        act()
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    study = Study.objects.get(pk=study_id)
    run = study.runs.order_by("-started").first()
    state = read_state(study)
    newer = None if version is not None and study.version == version else study_out(request, study, state)
    return study_json(request, NewsOut(run=run_out(run, timezone.now()) if run else None, study=newer))


@router.post("/studies/{study_id}/run", response={200: NewsOut, 400: Message, 404: Message})
def begin(request: HttpRequest, study_id: uuid.UUID, body: RunIn) -> Any:
    """Begin a run; one that is going on ends."""
    own_study(request)
    try:
        wanted = Wanted(body.interval, body.most, tuple(body.channels), secrets.randbelow(2**31))
    except OutsideSense as problem:
        return 400, Message(message=f"{capital(problem.name)} {problem.reason}")
    return _news(request, study_id, None, lambda: start(study_id, body.instrument, wanted, timezone.now()))


@router.post("/studies/{study_id}/run/stop", response={200: NewsOut, 400: Message, 404: Message})
def stop(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """End the run; what it has read until now is taken."""
    own_study(request)
    return _news(request, study_id, None, lambda: take(study_id, timezone.now(), stop=True))


@router.post("/studies/{study_id}/run/single", response={200: NewsOut, 400: Message, 404: Message})
def read_single(request: HttpRequest, study_id: uuid.UUID, body: SingleIn) -> Any:
    """One reading now."""
    own_study(request)
    return _news(request, study_id, None, lambda: take_single(study_id, body.instrument, body.x))


@router.post("/studies/{study_id}/run/reveal", response={200: StudyOut, 400: Message, 404: Message, 409: ConflictOut})
def reveal_curve(request: HttpRequest, study_id: uuid.UUID, body: RevealIn) -> Any:
    """The true curve of the last run as a known curve among the fits."""
    study = own_study(request)
    run = study.runs.order_by("-started").first()
    if run is None:
        return 400, Message(message="No instrument was read in this study.")
    if run.stopped is None:
        return 400, Message(message="The instrument is still read: stop it first.")
    try:
        study, _, after = reveal(study_id, body.version, run, body.channel, body.request_key)
    except StaleVersion:
        newest = Study.objects.get(pk=study_id)
        message = "This study was changed meanwhile. Try again."
        return 409, ConflictOut(message=message, study=study_out(request, newest, read_state(newest)))
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    return study_json(request, study_out(request, study, after))


@router.get("/studies/{study_id}/keys", response={200: list[KeyOut], 404: Message})
def keys(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """The keys of a study, without themselves."""
    return [key_out(one) for one in own_study(request).keys.order_by("pk")]


@router.post("/studies/{study_id}/keys", response={201: NewKeyOut, 400: Message, 404: Message})
def make_key(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """A key that opens nothing but adding rows to this study. It is shown this once."""
    study = own_study(request)
    try:
        key = new_key(study)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    return 201, NewKeyOut(key=key, address=request.build_absolute_uri("/api/readings"))


@router.delete("/studies/{study_id}/keys/{key_id}", response={200: KeyOut, 404: Message})
def withdraw(request: HttpRequest, study_id: uuid.UUID, key_id: Serial) -> Any:
    """The key opens nothing any more."""
    held = own_study(request).keys.filter(pk=key_id).first()
    if held is None:
        return 404, Message(message="There is no such key.")
    if held.withdrawn is None:
        held.withdrawn = timezone.now()
        held.save(update_fields=["withdrawn"])
    return key_out(held)


@router.post(
    "/readings", auth=None, response={201: PostedOut, 400: Message, 401: Message, 429: Message},
    openapi_extra={"security": [{"bearer": []}]},
)  # fmt: skip
def post_readings(request: HttpRequest, body: PostIn) -> Any:
    """Add readings with a key of the study: ``Authorization: Bearer KEY``. All of them are added, or none and it is said why."""
    scheme, _, key = request.headers.get("Authorization", "").partition(" ")
    if scheme.lower() != "bearer" or not key.strip():
        return 401, Message(message="Send the key of the study: Authorization: Bearer KEY.")
    if _too_often(key.strip()):
        return 429, Message(message=f"More than {POSTS_A_SECOND} requests a second: send several readings in one.")
    rows = [PostedRow(_text(one.x), _text(one.y), one.series.strip()) for one in body.readings]
    try:
        added = post(key.strip(), rows)
    except NoSuchKey:
        return 401, Message(message=WRONG_KEY)
    except ChangeRefused as refused:
        return 400, Message(message=str(refused))
    return 201, PostedOut(added=len(rows), rows=added.rows, remark=added.remark)


def _text(value: float | str | None) -> str:
    return "" if value is None else value.strip() if isinstance(value, str) else repr(value).removesuffix(".0")


def _too_often(key: str) -> bool:
    """Counted by each process for itself."""
    name = f"posts-{sha256(key.encode()).hexdigest()[:16]}-{int(timezone.now().timestamp())}"
    # Kept for longer than the second that it counts: a busy machine is slow, and forgets nothing.
    cache.add(name, 0, timeout=60)
    return bool(cache.incr(name) > POSTS_A_SECOND)
