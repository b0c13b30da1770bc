"""The reciprocal model y = a/x + b."""

from __future__ import annotations

from collections.abc import Mapping

from ridge.core.models.base import LinearForm, Model
from ridge.core.models.declared import About, Axis, Form, Going, StraightForm
from ridge.core.models.grips import Grip, Look


class Reciprocal(Model):
    """y = a/x + b, a straight line against 1/x."""

    family = title = "reciprocal"
    synonyms = ("inverse proportion", "hyperbola", "1/x")
    place = 60
    forms = (Form("reciprocal", "reciprocal"),)
    about = {
        "a": About("change in {y} for one more of 1/{x}", "More makes the curve steeper near zero."),
        "b": About("{y} for very large {x}", "More moves the curve up, with the level that it approaches."),
    }
    formula = "a/x + b"
    parameter_names = linear = ("a", "b")
    linear_form = LinearForm(
        (1, 0),
        lambda x: 1 / x,
        "1/x has no value where x is 0",
        "Set such readings aside, or choose another model.",
        lambda x: (-1 / (x * x), 2 / (x * x * x)),
    )
    constant = "b"
    inverses = ("a/(y - b)",)

    grips = (
        Grip("shift", "middle", "y_middle", {"b": "b + to_y - y_middle"}, "moves the curve up and down"),
        Grip(
            "steep",
            "low",
            "y_low",
            {
                "a": "(to_y - y_middle)/(1/low - 1/middle)",
                "b": "y_middle - (to_y - y_middle)/(1/low - 1/middle)/middle",
            },
            "makes the curve steeper or flatter about its middle",
        ),
    )

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        return StraightForm(Axis("reciprocal"), Axis(), values["a"])

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        if x > 0 if right else x < 0:
            return Going("On this side it levels off towards {at_y}.", values["b"])
        return Going("Towards {at_x}, where it has no value, it grows without limit.", at_x=0.0)

    def first_values(self, look: Look) -> dict[str, float]:
        (x1, y1), (x2, y2) = look.first, look.last
        a = (y1 - y2) / (1 / x1 - 1 / x2)
        return {"a": a, "b": y2 - a / x2}

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "Reciprocal()"
