"""What a course settles in a student's copy: which models are on offer, how numbers and angles are written, how handles go."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any

from pydantic import ConfigDict, Field
from pydantic.dataclasses import dataclass as description

from ridge.core.catalogue import ENTRIES, entry_of, options_of
from ridge.studies.content import fields

FormKey = Annotated[str, Field(max_length=40)]
"""A model by its key in the catalogue."""
STRICT = ConfigDict(extra="forbid")


@description(frozen=True, config=STRICT)
class HandleSpan:
    """Between which values the handle of a parameter goes while a curve of this form is set by hand, and by which ``step``."""

    form: FormKey
    parameter: fields.Parameter
    low: fields.Number
    high: fields.Number
    step: fields.Above


@description(frozen=True, config=STRICT)
class Course:
    """``models``: those on offer, by their keys in the catalogue; all if empty. ``decimals``: how many every number of an equation has;
    ``degrees``: whether angles are counted in degrees; each None where the student chooses. ``least_readings``: without which nothing
    is handed in."""

    models: Annotated[tuple[FormKey, ...], Field(max_length=len(ENTRIES))] = ()
    decimals: fields.Decimals | None = None
    degrees: bool | None = None
    spans: Annotated[tuple[HandleSpan, ...], Field(max_length=60)] = ()
    least_readings: Annotated[int, Field(ge=0, le=1000)] = 0

    def offers(self, key: str) -> bool:
        """Whether a model may be chosen."""
        return not self.models or key in self.models

    def span_of(self, family: str, options: Mapping[str, Any], parameter: str) -> HandleSpan | None:
        """The span of a parameter's handle, where the course has one."""
        entry = entry_of(family, options)
        return next((one for one in self.spans if entry and (one.form, one.parameter) == (entry.key, parameter)), None)

    def options_for(self, family: str) -> dict[str, Any]:
        """Options that a new fit of a family has."""
        if self.degrees is None or all(option.name != "degrees" for option in options_of(family)):
            return {}
        return {"degrees": self.degrees}
