"""A class at a glance: one row for each copy, as schema and as a table for other programs."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import NamedTuple

from ninja import Schema

from ridge.classes.copies import steps_of
from ridge.classes.models import Worksheet
from ridge.classes.task_steps import done, reached
from ridge.exchange.data_files import Sheet
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.store import read_state
from ridge.studies.words.analyse import analysis_of
from ridge.studies.words.fit_schemas import ComputedFit, DescribedFit
from ridge.studies.words.schemas import AnalysisOut


class CopyOut(Schema):
    """``model``, ``parameters``, ``r_squared``, ``typical_miss``: of the leading fit; ``steps``: of each whether it is done; ``number``: how
    often it was handed in, ``handed_in``: when for the last time."""

    id: int
    study: uuid.UUID
    student: str
    joined: datetime
    steps: list[bool]
    reached: int
    readings: int
    model: str
    parameters: list[str]
    r_squared: str
    typical_miss: str
    answers: list[str]
    texts: dict[str, str]
    number: int
    handed_in: datetime | None


def copies_of(worksheet: Worksheet) -> list[CopyOut]:
    """In the order of the students' names."""
    copies = worksheet.of_class.select_related("study").prefetch_related("handed_in")
    steps = steps_of(worksheet)
    out = []
    for copy in sorted(copies, key=lambda one: one.student.casefold()):
        state = read_state(copy.study)
        analysis = analysis_of(state)
        dones = done(steps, state, analysis, copy.texts, copy.ticked)
        handed = list(copy.handed_in.all())
        leading = _leading(analysis)
        out.append(
            CopyOut(
                id=copy.pk, study=copy.study_id, student=copy.student, joined=copy.joined, steps=dones, reached=reached(dones),
                readings=read_table(state).count(Status.USED), model=leading.model, parameters=list(leading.parameters), r_squared=leading.r_squared, typical_miss=leading.typical_miss, answers=_answers(analysis),
                texts={key: text for key, text in copy.texts.items() if text}, number=len(handed),
                handed_in=handed[-1].made if handed else None,
            )
        )  # fmt: skip
    return out


class _Leading(NamedTuple):
    """What is told of a leading fit."""

    model: str = ""
    parameters: tuple[str, ...] = ()
    r_squared: str = ""
    typical_miss: str = ""


def _leading(analysis: AnalysisOut) -> _Leading:
    fit = analysis.fits[0] if analysis.fits else None
    if isinstance(fit, ComputedFit):
        parameters = tuple(f"{one.symbol} = {one.text} {one.unit}".strip() for one in fit.parameters)
        return _Leading(fit.label or fit.name, parameters, fit.r_squared, fit.typical_miss)
    return _Leading(fit.label or fit.name) if isinstance(fit, DescribedFit) else _Leading()


def _answers(analysis: AnalysisOut) -> list[str]:
    unknowns = [f"{one.label}: {one.answer.result}" for one in analysis.unknowns if one.answer.result]
    return [*unknowns, *(f"{one.asked}: {one.result}" for one in analysis.answers if one.result)]


def class_sheet(worksheet: Worksheet, copies: list[CopyOut]) -> Sheet:
    steps = steps_of(worksheet)
    headings = ["student", "steps done", "readings", "model", "parameters", "R²", "typical miss", "answers"]
    columns: list[list[float | str]] = [
        [one.student for one in copies],
        [f"{sum(one.steps)} of {len(one.steps)}" for one in copies],
        [one.readings for one in copies],
        [one.model for one in copies],
        ["; ".join(one.parameters) for one in copies],
        [one.r_squared for one in copies],
        [one.typical_miss for one in copies],
        ["; ".join(one.answers) for one in copies],
    ]
    for place, step in enumerate(steps):
        if any(one.texts.get(step.key) for one in copies):
            headings.append(f"text to step {place + 1}")
            columns.append([one.texts.get(step.key, "") for one in copies])
    headings += ["handed in", "times"]
    columns += [
        [one.handed_in.strftime("%Y-%m-%d %H:%M UTC") if one.handed_in else "" for one in copies],
        [one.number for one in copies],
    ]
    return Sheet("Class", headings, columns)
