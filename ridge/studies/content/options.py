"""Families and their options as requests may name them, from what the families declare."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated, Any, Literal

from ninja import Schema
from pydantic import BeforeValidator, ConfigDict, Field, FiniteFloat, StringConstraints, WithJsonSchema, create_model

from ridge.core.catalogue import options_of
from ridge.core.interpolation.kinds import FAMILY as INTERPOLATION
from ridge.core.models import FAMILIES
from ridge.core.models.declared import Option
from ridge.studies.content.allowed import FORMULA_TYPED
from ridge.studies.content.fields import Letter


class _Options(Schema):
    """What can be chosen within a family; see ``ridge.core.models`` for the meaning of each."""

    model_config = ConfigDict(extra="forbid")

    def given(self) -> dict[str, Any]:
        return {name: value for name, value in self.model_dump().items() if value is not None}


def _type_of(option: Option) -> Any:
    match option.kind:
        case "flag":
            return bool
        case "whole":
            return Annotated[int, Field(ge=option.low, le=option.high)]
        case "number":
            return FiniteFloat
        case "choice":
            return Literal[tuple(value for value, _ in option.words)]
        case "powers":
            one = Annotated[int, Field(ge=option.low, le=option.high)]
            return Annotated[list[one], Field(min_length=1, max_length=option.high - option.low + 1)]
        case "text":
            return Annotated[str, StringConstraints(max_length=FORMULA_TYPED)]
        case "letters":
            return Annotated[list[Letter], Field(max_length=option.high)]


if TYPE_CHECKING:
    Family = str

    class FitOptions(_Options):
        def __init__(self, **given: Any) -> None: ...
else:
    Family = Literal[(*FAMILIES, INTERPOLATION)]
    FitOptions = create_model(
        "FitOptions",
        __base__=_Options,
        __doc__=_Options.__doc__,
        **{
            option.name: (_type_of(option) | None, None)
            for family in (*FAMILIES, INTERPOLATION)
            for option in options_of(family)
        },
    )


def _read(given: Any) -> dict[str, Any]:
    return FitOptions.model_validate(given).given()


Options = Annotated[
    Mapping[str, Any], BeforeValidator(_read), WithJsonSchema({"allOf": [FitOptions.model_json_schema()]})
]
"""Options that were given, by name; those left out have their usual value."""
FamilyName = Annotated[
    str,
    StringConstraints(max_length=20),
    WithJsonSchema({"type": "string", "enum": [*FAMILIES, INTERPOLATION]}),
]
"""A family by its key. One that is no longer known stays as it is, so that nothing is lost; see ``Family`` for what may be asked."""
