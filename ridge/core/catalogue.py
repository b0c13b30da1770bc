"""Every model and interpolation as it is offered, in order, and the form that a chosen one is of."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from ridge.core.interpolation import kinds
from ridge.core.models import FAMILIES, Model
from ridge.core.models.declared import Form, Option


@dataclass(frozen=True)
class Entry:
    """One form of a family. ``tried``: whether it is among those that are laid over readings to choose from."""

    family: str
    form: Form
    synonyms: tuple[str, ...] = ()

    @property
    def key(self) -> str:
        return self.form.key

    @property
    def options(self) -> dict[str, Any]:
        return dict(self.form.options)

    @property
    def group(self) -> Literal["model", "interpolation"]:
        return "interpolation" if self.family == kinds.FAMILY else "model"

    def model(self) -> Model:
        """The model of this form; of an interpolation there is none."""
        return FAMILIES[self.family](**self.options)


MODELS = tuple(Entry(key, form, family.synonyms) for key, family in FAMILIES.items() for form in family.forms)
INTERPOLATIONS = tuple(Entry(kinds.FAMILY, form) for form in kinds.FORMS)
ENTRIES = {entry.key: entry for entry in (*MODELS, *INTERPOLATIONS)}


def options_of(family: str) -> tuple[Option, ...]:
    """What can be chosen within a family; nothing in one that is not known."""
    if family == kinds.FAMILY:
        return kinds.OPTIONS
    return FAMILIES[family].options if family in FAMILIES else ()


def defaults_of(family: str) -> dict[str, Any]:
    """The options of a family with what holds when nothing is said."""
    return {option.name: option.default for option in options_of(family)}


def entry_of(family: str, options: Mapping[str, Any]) -> Entry | None:
    """The form that a family with these options is of; None for a family that is not known."""
    all_options = defaults_of(family) | dict(options)
    return next((one for one in ENTRIES.values() if one.family == family and one.form.holds(all_options)), None)
