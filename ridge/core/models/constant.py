"""The constant y = c: what every other model has to do better than."""

from __future__ import annotations

from collections.abc import Mapping

from ridge.core.models.base import LinearForm, Model
from ridge.core.models.declared import About, Form, Going, StraightForm
from ridge.core.models.grips import Look


class Constant(Model):
    """y = c, the weighted mean of the readings."""

    family = title = graph = "constant"
    synonyms = ("mean", "average")
    place = 100
    forms = (Form("constant", "constant"),)
    flat, bends = True, False
    about = {"c": About("mean of {y}", "More moves the line up.")}
    formula = "c"
    parameter_names = linear = ("c",)
    linear_form = LinearForm((0,))
    constant = "c"

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "Constant()"

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        return "A line is straight already."

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        return Going("It stays at {at_y}.", values["c"])

    def first_values(self, look: Look) -> dict[str, float]:
        return {"c": float(look.y.mean())}
