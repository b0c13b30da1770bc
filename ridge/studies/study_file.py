"""A whole study as one JSON file, and back without loss. The schema is written to docs/study.schema.json."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Annotated, Any, Literal

from ninja import Schema
from pydantic import ConfigDict, Field, FiniteFloat, StringConstraints, ValidationError

from ridge.studies.changes import ChangeRefused
from ridge.studies.changes.fits import Decimals, PutFits
from ridge.studies.changes.options import Family, FitOptions, Letter
from ridge.studies.changes.page import Asked, CourseLetter, Direction, Parameter
from ridge.studies.changes.plot import PlotSettings
from ridge.studies.changes.report import Author, Parts, PartSettings, ReportDate, read_parts
from ridge.studies.state import FORMULA_TYPED, LIMITS, WHOLE_REPORT, AnswerState, ColumnState, StudyState, empty_study

VERSION = 2
"""1: without report and decimals."""
LARGEST = 40_000_000
"""Characters of a file that is read."""

Cell = Annotated[str, StringConstraints(max_length=LIMITS["cell"])]
Reason = Annotated[str, StringConstraints(max_length=200)]
Row = Annotated[int, Field(ge=0, lt=LIMITS["rows"])]
Key = Annotated[str, StringConstraints(pattern="^[0-9a-z]{1,12}$")]
Role = Literal["x", "y", "x_error", "y_error", "weight", "count", "series", "other"]


class _Part(Schema):
    model_config = ConfigDict(extra="forbid")


class ColumnPart(_Part):
    """A column: its cells as typed, one a row; of a calculated column they are empty."""

    key: Key
    name: Annotated[str, StringConstraints(max_length=100)] = ""
    symbol: Annotated[str, StringConstraints(max_length=20)] = ""
    unit: Annotated[str, StringConstraints(max_length=40)] = ""
    role: Role
    cells: Annotated[list[Cell], Field(max_length=LIMITS["rows"])]
    formula: Annotated[str, StringConstraints(max_length=FORMULA_TYPED)] = ""
    exponent: Annotated[int, Field(ge=-300, le=300)] = 0
    uncertainty: Annotated[str, StringConstraints(max_length=40)] = ""
    lowest: Annotated[str, StringConstraints(max_length=40)] = ""
    highest: Annotated[str, StringConstraints(max_length=40)] = ""
    limits_why: Annotated[str, StringConstraints(max_length=100)] = ""


class RowPart(_Part):
    """A row, counted from 0, and why."""

    row: Row
    reason: Reason = ""


class FitPart(_Part):
    """A fit; what each part means stands with ``FitState``."""

    letter: Letter
    family: Family
    options: FitOptions = FitOptions()
    fixed: dict[str, FiniteFloat] = {}
    series: Annotated[str, StringConstraints(max_length=200)] = ""
    method: Literal["y", "logarithms", "orthogonal"] = "y"
    by_hand: bool = False
    values: dict[str, FiniteFloat] = {}
    bounds: dict[str, tuple[FiniteFloat | None, FiniteFloat | None]] = {}
    x_range: tuple[FiniteFloat, FiniteFloat] | None = None
    name: Annotated[str, StringConstraints(max_length=60)] = ""
    hidden: bool = False
    decimals: dict[str, Decimals] = {}


class AnswerPart(_Part):
    """A question that was kept."""

    key: Key
    direction: Direction
    given: Annotated[str, StringConstraints(max_length=200)] = ""
    repeats: Annotated[int, Field(ge=1, le=10_000)] = 1
    fit: Asked = ""
    name: Annotated[str, StringConstraints(max_length=60)] = ""
    was: Annotated[str, StringConstraints(max_length=400)] = ""


class StudyFile(_Part):
    """A study of Ridge: its readings as typed, what is fitted, how it is drawn, what was asked. Nothing computed is in it."""

    format: Literal["ridge-study"] = "ridge-study"
    version: Literal[2] = 2
    title: Annotated[str, StringConstraints(min_length=1, max_length=200)]
    question: Annotated[str, StringConstraints(max_length=2000)] = ""
    absolute_errors: bool = False
    level: Annotated[float, Field(ge=0.5, le=0.9999)] = 0.95
    letters: Annotated[dict[Parameter, CourseLetter], Field(max_length=40)] = {}
    rising: bool = False
    columns: Annotated[list[ColumnPart], Field(min_length=2, max_length=LIMITS["columns"])]
    aside: list[RowPart] = []
    assumed: list[RowPart] = []
    plot: PlotSettings = PlotSettings()
    fits: Annotated[list[FitPart], Field(max_length=LIMITS["fits"])] = []
    answers: Annotated[list[AnswerPart], Field(max_length=LIMITS["answers"])] = []
    author: Author = ""
    date: ReportDate = ""
    report: Parts = []


class NotAStudy(ValueError):
    """The file is not a study that can be read; the message says where and why."""


def write_study(state: StudyState) -> bytes:
    """The study as JSON, indented so that it can be looked at."""
    whole = StudyFile(
        title=state.title,
        question=state.question,
        absolute_errors=state.absolute_errors,
        level=state.level,
        letters=dict(state.letters),
        rising=state.rising,
        columns=[ColumnPart(**{**vars(column), "cells": list(column.cells)}) for column in state.columns],
        aside=[RowPart(row=row, reason=reason) for row, reason in sorted(state.aside.items())],
        assumed=[RowPart(row=row, reason=reason) for row, reason in sorted(state.assumed.items())],
        plot=PlotSettings(**state.plot),
        fits=[FitPart(**{**vars(fit), "options": FitOptions(**fit.options)}) for fit in state.fits],
        answers=[AnswerPart(**vars(answer)) for answer in state.answers],
        author=state.author,
        date=state.date,
        report=[] if state.report == WHOLE_REPORT else [PartSettings(**vars(part)) for part in state.report],
    )
    shown = whole.model_dump(mode="json", exclude_defaults=True)
    return json.dumps({"format": "ridge-study", "version": VERSION, **shown}, ensure_ascii=False, indent=1).encode()


def read_study(text: str) -> StudyState:
    """The study in a file's text. Raises NotAStudy, naming the place."""
    if len(text) > LARGEST:
        raise NotAStudy("This file is larger than a study can be (40 million characters).")
    try:
        raw = json.loads(text, parse_constant=_no_constant)
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
    return _checked(whole)


def _upgraded(raw: dict[str, Any]) -> dict[str, Any]:
    """The content of an older version in the form of this one."""
    return {**raw, "version": VERSION}  # what version 1 lacks has its usual value


def _no_constant(name: str) -> float:
    raise ValueError(f"{name} is not a number")


def _checked(whole: StudyFile) -> StudyState:
    """The state, if its parts belong together."""
    rows = {len(column.cells) for column in whole.columns}
    if len(rows) > 1:
        raise NotAStudy("At columns: they have different numbers of rows.")
    roles = [column.role for column in whole.columns]
    if roles.count("x") != 1 or roles.count("y") != 1:
        raise NotAStudy("At columns: one has to be x and one y.")
    for what, names in (
        ("columns", [column.key for column in whole.columns]),
        ("fits", [fit.letter for fit in whole.fits]),
        ("answers", [answer.key for answer in whole.answers]),
    ):
        if len(set(names)) < len(names):
            raise NotAStudy(f"At {what}: two have the same key or letter.")
    marked = [part.row for part in (*whole.aside, *whole.assumed)]
    if marked and max(marked) >= max(rows):
        raise NotAStudy(f"Row {max(marked)} is marked, but there are {max(rows)} rows, counted from 0.")
    columns = tuple(ColumnState(**{**column.model_dump(), "cells": tuple(column.cells)}) for column in whole.columns)
    state = replace(
        empty_study(whole.title),
        columns=columns,
        question=whole.question,
        absolute_errors=whole.absolute_errors,
        level=whole.level,
        letters=whole.letters,
        rising=whole.rising,
        aside={part.row: part.reason for part in whole.aside},
        assumed={part.row: part.reason for part in whole.assumed},
        plot={k: v for k, v in whole.plot.model_dump().items() if v != PlotSettings.model_fields[k].default},
        answers=tuple(AnswerState(**answer.model_dump()) for answer in whole.answers),
        author=whole.author,
        date=whole.date,
    )
    try:
        state = replace(state, report=read_parts(whole.report) if whole.report else WHOLE_REPORT)
    except ChangeRefused as refused:
        raise NotAStudy(f"At report: {refused}") from None
    fits: list[dict[str, Any]] = [{**fit.model_dump(), "options": fit.options.given()} for fit in whole.fits]
    try:
        return PutFits.like(fits=fits).apply(state).state
    except ChangeRefused as refused:
        raise NotAStudy(f"At fits: {refused}") from None


def study_schema() -> str:
    """The JSON Schema of the format, as it is published."""
    schema = StudyFile.model_json_schema()
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema}
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"
