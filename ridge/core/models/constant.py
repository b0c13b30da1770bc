"""The constant y = c: what every other model has to do better than."""

from __future__ import annotations

from ridge.core.models.base import LinearForm, Model
from ridge.core.models.grips import Look


class Constant(Model):
    """y = c, the weighted mean of the readings."""

    family = "constant"
    formula = "c"
    parameter_names = linear = ("c",)
    linear_form = LinearForm((0,))
    constant = "c"

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "Constant()"

    def first_values(self, look: Look) -> dict[str, float]:
        return {"c": float(look.y.mean())}
