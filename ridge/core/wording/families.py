"""What parameters and derived quantities mean, and how a curve goes on, in the study's own words.

Every family says this of itself, in templates (see ``ridge.core.models.declared``); here they are filled in.
"""

from __future__ import annotations

from ridge.core.models import Model
from ridge.core.models.declared import About
from ridge.core.numerals import significant
from ridge.core.results.fit import Fit
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.units import raised


class _PowersOf:
    """``{x_to[3]}``."""

    def __init__(self, symbol: str) -> None:
        self._symbol = symbol

    def __getitem__(self, power: int) -> str:
        return raised(self._symbol, power)


def in_names(template: str, naming: Naming) -> str:
    """A template in the names of the columns, or their symbols where they have none."""
    return template.format(
        x=naming.x_name or naming.x,
        y=naming.y_name or naming.y,
        x_step=naming.x_unit or f"unit of {naming.x}",
        x_one=with_unit("1", naming.x_unit),
        x_to=_PowersOf(naming.x),
    )


def in_letters(template: str, naming: Naming) -> str:
    """A template in the symbols of the columns."""
    return template.format(x=naming.x, y=naming.y)


def parameter_meaning(model: Model, parameter: str, naming: Naming) -> str:
    """What a parameter says about the curve; empty for those of an own formula."""
    return in_names(model.about.get(parameter, About()).meaning, naming)


def beyond_sentence(fit: Fit, naming: Naming, x: float) -> str:
    """How the curve goes on beyond the readings, on the side of ``x``, and what that supposes."""
    going = fit.model.beyond(fit.values, x, x > fit.readings.measured_range[1])
    at_y = "" if going.at_y is None else naming.y_with_unit(significant(going.at_y, 4, strip=True).text)
    at_x = "" if going.at_x is None else significant(going.at_x, 4, strip=True).text
    return going.sentence.format(x=naming.x, y=naming.y, at_y=f"{naming.y} = {at_y}", at_x=f"{naming.x} = {at_x}")
