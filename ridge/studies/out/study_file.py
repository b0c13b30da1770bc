"""A whole study as one JSON file, and back without loss. The schema is written to docs/study.schema.json."""

from __future__ import annotations

import base64
import binascii
import json
from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import ConfigDict, Field, ValidationError

from ridge.exchange.nul import without_nul
from ridge.pictures import PictureRefused, open_picture
from ridge.studies.content.allowed import LIMITS
from ridge.studies.content.changes import ChangeRefused
from ridge.studies.content.changes.picturing import read_laid
from ridge.studies.content.changes.plot import PlotSettings
from ridge.studies.content.changes.report import Parts, read_parts
from ridge.studies.content.fields import Author, Letters, Level, Question, Reason, ReportDate, Row, Title
from ridge.studies.content.kept_pictures import WrittenPicture, as_written
from ridge.studies.content.sound import Unsound, check_fit, check_sound
from ridge.studies.content.state import (
    WHOLE_REPORT,
    AnswerState,
    ColumnState,
    FitState,
    PictureState,
    StudyState,
    empty_study,
)

VERSION = 2
"""1: without report and decimals."""
LARGEST = 40_000_000
"""Characters of a file that is read."""


class _Part(Schema):
    model_config = ConfigDict(extra="forbid")


class RowPart(_Part):
    """A row, counted from 0, and why."""

    row: Row
    reason: Reason = ""


class PicturePart(_Part):
    """The picture under the plot; ``data``: its bytes in base 64."""

    laid: PictureState
    data: str


class StudyFile(_Part):
    """A study of Ridge: its readings as typed, what is fitted, how it is drawn, what was asked. Nothing computed is in it."""

    format: Literal["ridge-study"] = "ridge-study"
    version: Literal[2] = 2
    title: Title
    question: Question = ""
    absolute_errors: bool = False
    level: Level = 0.95
    letters: Letters = {}
    rising: bool = False
    columns: Annotated[list[ColumnState], Field(min_length=2, max_length=LIMITS["columns"])]
    aside: list[RowPart] = []
    assumed: list[RowPart] = []
    plot: PlotSettings = PlotSettings()
    fits: Annotated[list[FitState], Field(max_length=LIMITS["fits"])] = []
    answers: Annotated[list[AnswerState], Field(max_length=LIMITS["answers"])] = []
    author: Author = ""
    date: ReportDate = ""
    report: Parts = []
    picture: PicturePart | None = None


@dataclass(frozen=True)
class ReadStudy:
    """A study from a file, and its picture where it has one."""

    state: StudyState
    picture: WrittenPicture | None = None


class NotAStudy(ValueError):
    """The file is not a study that can be read; the message says where and why."""


def write_study(state: StudyState, picture: bytes | None = None) -> bytes:
    """The study as JSON, indented so that it can be looked at. ``picture``: the bytes of the one under its plot, without which that is
    left out."""
    whole = StudyFile(
        title=state.title,
        question=state.question,
        absolute_errors=state.absolute_errors,
        level=state.level,
        letters=dict(state.letters),
        rising=state.rising,
        columns=list(state.columns),
        aside=[RowPart(row=row, reason=reason) for row, reason in sorted(state.aside.items())],
        assumed=[RowPart(row=row, reason=reason) for row, reason in sorted(state.assumed.items())],
        plot=PlotSettings(**state.plot),
        fits=list(state.fits),
        answers=list(state.answers),
        author=state.author,
        date=state.date,
        report=[] if state.report == WHOLE_REPORT else list(state.report),
        picture=PicturePart(laid=state.picture, data=base64.b64encode(picture).decode())
        if state.picture and picture is not None
        else None,
    )
    shown = whole.model_dump(mode="json", exclude_defaults=True)
    return json.dumps({"format": "ridge-study", "version": VERSION, **shown}, ensure_ascii=False, indent=1).encode()


def read_study(text: str) -> ReadStudy:
    """The study in a file's text. Raises NotAStudy, naming the place."""
    if len(text) > LARGEST:
        raise NotAStudy("This file is larger than a study can be (40 million characters).")
    try:
        raw = without_nul(json.loads(text, parse_constant=_no_constant))
    except (ValueError, RecursionError) as broken:
        where = f" at line {broken.lineno}, column {broken.colno}" if isinstance(broken, json.JSONDecodeError) else ""
        raise NotAStudy(f"This is not valid JSON{where}: the file is damaged or incomplete.") from None
    if not isinstance(raw, dict) or raw.get("format") != "ridge-study":
        raise NotAStudy('This is not a Ridge study: it lacks "format": "ridge-study".')
    version = raw.get("version")
    if not isinstance(version, int) or version < 1:
        raise NotAStudy("It does not say which version of the format it has.")
    if version > VERSION:
        raise NotAStudy(
            f"It was written by a newer Ridge (version {version} of the format; this one knows {VERSION}). Update Ridge to open it."
        )
    try:
        whole = StudyFile.model_validate(_upgraded(raw))
    except ValidationError as problems:
        first = problems.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the whole"
        raise NotAStudy(f"At {where}: {first['msg']}.") from None
    state = _checked(whole)
    if whole.picture is None:
        return ReadStudy(state)
    written, laid_there = _read_picture(whole.picture)
    state = replace(state, picture=laid_there)
    try:
        read_laid(laid_there, state)
    except ChangeRefused as refused:
        raise NotAStudy(f"At picture: {refused}") from None
    return ReadStudy(state, written)


def _read_picture(part: PicturePart) -> tuple[WrittenPicture, PictureState]:
    """The picture, decoded and written anew like any that comes from outside."""
    try:
        opened = open_picture(base64.b64decode(part.data, validate=True))
        written = as_written(opened)
    except (binascii.Error, ValueError) as problem:
        why = str(problem) if isinstance(problem, PictureRefused) else "Its data are not in base 64."
        raise NotAStudy(f"At picture: {why}") from None
    if (opened.width, opened.height) != (part.laid.width, part.laid.height):
        raise NotAStudy(
            f"At picture: it has {opened.width} × {opened.height} pixels, not {part.laid.width} × {part.laid.height} as it says."
        )
    return written, replace(part.laid, digest=written.digest, media_type=written.media_type)


def _upgraded(raw: dict[str, Any]) -> dict[str, Any]:
    """The content of an older version in the form of this one."""
    return {**raw, "version": VERSION}  # what version 1 lacks has its usual value


def _no_constant(name: str) -> float:
    raise ValueError(f"{name} is not a number")


def _checked(whole: StudyFile) -> StudyState:
    """The state, if its parts belong together."""
    state = replace(
        empty_study(whole.title),
        columns=tuple(whole.columns),
        question=whole.question,
        absolute_errors=whole.absolute_errors,
        level=whole.level,
        letters=whole.letters,
        rising=whole.rising,
        aside={part.row: part.reason for part in whole.aside},
        assumed={part.row: part.reason for part in whole.assumed},
        plot=whole.plot.stored(),
        fits=tuple(whole.fits),
        answers=tuple(whole.answers),
        author=whole.author,
        date=whole.date,
    )
    try:
        state = replace(state, report=read_parts(whole.report) if whole.report else WHOLE_REPORT)
    except ChangeRefused as refused:
        raise NotAStudy(f"At report: {refused}") from None
    try:
        check_sound(state)
        for fit in state.fits:
            check_fit(fit, state)
    except Unsound as unsound:
        raise NotAStudy(f"At {unsound.where}: {unsound}") from None
    return state


def study_schema() -> str:
    """The JSON Schema of the format, as it is published."""
    schema = StudyFile.model_json_schema()
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema}
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"
