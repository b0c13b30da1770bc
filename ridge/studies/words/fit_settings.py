"""What can be chosen within a fit, as its family declares it, and the ways of least squares that it allows."""

from __future__ import annotations

from typing import Any

from ridge.core.catalogue import Entry
from ridge.core.interpolation.kinds import settings_of
from ridge.core.models import Formula
from ridge.core.models.declared import Option
from ridge.core.wording.families import parameter_meaning
from ridge.core.wording.naming import Naming
from ridge.studies.analysis.fits import Fitted
from ridge.studies.content.options import FitOptions
from ridge.studies.content.readings import Table
from ridge.studies.words.fit_schemas import ChoiceOut, SettingOut, WayOut
from ridge.studies.words.schemas import OfferedParameterOut, OfferOut

_KINDS: dict[str, Any] = {"powers": "several", "number": "number"}


def offered(entry: Entry) -> OfferOut:
    """A form of the catalogue as it goes to the screen."""
    return OfferOut(
        key=entry.key, name=entry.form.name, family=entry.family, options=FitOptions(**entry.options), group=entry.group,
        synonyms=list(entry.synonyms), tried=entry.form.tried, parameters=_parameters(entry),
    )  # fmt: skip


def _parameters(entry: Entry) -> list[OfferedParameterOut]:
    if entry.group != "model" or entry.family == Formula.family:
        return []
    naming, model = Naming(), entry.model()
    return [
        OfferedParameterOut(name=name, symbol=naming.letter(name), meaning=parameter_meaning(model, name, naming))
        for name in model.parameter_names
    ]


def settings(one: Fitted) -> list[SettingOut]:
    """The options that can be set by themselves; none of a model that cannot be read."""
    if one.kind == "interpolation":
        return [_setting(option, one.options) for option in settings_of(one.options)]
    return [_setting(option, one.options) for option in one.model.settings] if one.model is not None else []


def _setting(option: Option, options: dict[str, Any]) -> SettingOut:
    value = options[option.name]
    choices = [ChoiceOut(value=value, word=word) for value, word in option.words]
    return SettingOut(
        option=option.name,
        kind=_KINDS.get(option.kind, "pick"),
        label=option.label,
        value=[value for value, _ in option.words] if value is None else value,
        choices=choices,
    )


def ways(one: Fitted, table: Table) -> list[WayOut]:
    """The ways of least squares that the model and the uncertainties allow."""
    naming = table.naming
    if one.kind == "interpolation":
        return []
    found = [WayOut(method="y", word=f"least squares in {naming.y}")]
    if one.model is not None and one.model.logarithms is not None:
        found.append(WayOut(method="logarithms", word="least squares in logarithms"))
    if table.readings.x_error is not None and table.readings.y_error is not None:
        found.append(WayOut(method="orthogonal", word=f"least squares in {naming.x} and {naming.y}"))
    return found
