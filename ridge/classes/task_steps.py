"""The steps of a worksheet: what is to be done, and when it is."""

from __future__ import annotations

import re
import secrets
from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from ninja import Schema
from pydantic import ConfigDict, Field, FiniteFloat, StringConstraints

from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.state import StudyState
from ridge.studies.words.fit_schemas import FittedFit, HandFit, InterpolationFit
from ridge.studies.words.schemas import AnalysisOut

MOST = 40
StepKey = Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{1,12}$")]
StepText = Annotated[str, StringConstraints(min_length=1, max_length=4000, strip_whitespace=True)]
OwnText = Annotated[str, StringConstraints(max_length=10_000)]


class Needs(Schema):
    """What must be there for a step to be done: nothing but the student's tick, so many readings in use, a fit (of a family, or of any), an
    answer within a tolerance of a value, or a text of so many words."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["tick", "readings", "fit", "answer", "text"] = "tick"
    count: Annotated[int, Field(ge=1, le=10_000)] = 1
    family: Annotated[str, StringConstraints(max_length=40)] = ""
    value: FiniteFloat = 0.0
    tolerance: Annotated[FiniteFloat, Field(ge=0)] = 0.0


class Step(Schema):
    """``key`` is empty for a new one."""

    model_config = ConfigDict(extra="forbid")

    key: StepKey | Literal[""] = ""
    text: StepText
    needs: Needs = Needs()


Steps = Annotated[list[Step], Field(max_length=MOST)]


def with_keys(steps: Sequence[Step]) -> list[Step]:
    """New steps get keys of their own; what was written to the others stays with them."""
    taken: set[str] = set()
    out = []
    for step in steps:
        key = step.key if step.key and step.key not in taken else secrets.token_hex(4)
        taken.add(key)
        out.append(step.model_copy(update={"key": key}))
    return out


def done(
    steps: Sequence[Step], state: StudyState, analysis: AnalysisOut, texts: Mapping[str, str], ticked: Sequence[str]
) -> list[bool]:
    """Of each step whether it is done."""
    return [_is_done(step, state, analysis, texts, ticked) for step in steps]


def reached(dones: Sequence[bool]) -> int:
    """How many steps are done from the first on without a gap."""
    return next((place for place, one in enumerate(dones) if not one), len(dones))


def _is_done(
    step: Step, state: StudyState, analysis: AnalysisOut, texts: Mapping[str, str], ticked: Sequence[str]
) -> bool:
    needs = step.needs
    match needs.kind:
        case "readings":
            return read_table(state).count(Status.USED) >= needs.count
        case "fit":
            return any(
                isinstance(fit, FittedFit | HandFit | InterpolationFit) and needs.family in ("", fit.family)
                for fit in analysis.fits
            )
        case "answer":
            return any(abs(value - needs.value) <= needs.tolerance for value in _answered(analysis))
        case "text":
            return words(texts.get(step.key, "")) >= needs.count
        case _:
            return step.key in ticked


def words(text: str) -> int:
    return len(re.findall(r"\w+", text))


def _answered(analysis: AnalysisOut) -> list[float]:
    """The values of all answers that are kept, and of all unknowns."""
    answers = [*analysis.answers, *(unknown.answer for unknown in analysis.unknowns)]
    rows = [row for answer in answers for row in (answer.rows if len(answer.rows) > 1 else [answer])]
    return [number.value for row in rows for number in row.numbers]
