"""The square-root model y = a·√x + b, such as the speed of water under a height of water."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ridge.core.models.base import LinearForm, Model
from ridge.core.models.declared import About, Axis, Form, Going, StraightForm
from ridge.core.models.grips import Grip, Look


class SquareRoot(Model):
    """y = a·√x + b, a straight line against √x. For x that is not negative."""

    family = "square_root"
    title = "square root"
    synonyms = ("root", "draining", "pendulum", "half power")
    place = 55
    forms = (Form("square-root", title),)
    formula = "a*sqrt(x) + b"
    parameter_names = linear = ("a", "b")
    linear_form = LinearForm(
        (1, 0),
        np.sqrt,
        "√x has no value where x is negative",
        "Set such readings aside, or choose another model.",
        lambda x: (1 / (2 * np.sqrt(x)), -1 / (4 * x * np.sqrt(x))),
    )
    constant = "b"
    inverses = ("((y - b)/a)^2",)
    about = {
        "a": About("change in {y} for one more of √{x}", "More makes the curve steeper, above all near zero."),
        "b": About("{y} where {x} is zero", "More moves the curve up."),
    }
    grips = (
        Grip("shift", "middle", "y_middle", {"b": "b + to_y - y_middle"}, "moves the curve up and down"),
        Grip(
            "steep",
            "high",
            "y_high",
            {
                "a": "(to_y - y_middle)/(sqrt(high) - sqrt(middle))",
                "b": "y_middle - sqrt(middle)*(to_y - y_middle)/(sqrt(high) - sqrt(middle))",
            },
            "makes the curve steeper or flatter about its middle",
        ),
    )

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "SquareRoot()"

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        return StraightForm(Axis("power", power=0.5), Axis(), values["a"])

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        if not right:
            return Going("On this side it ends at {at_x}: a negative number has no square root.", at_x=0.0)
        way = "rising" if values["a"] > 0 else "falling"
        return Going(f"A square root keeps {way} on this side, ever more slowly, and never levels off.")

    def first_values(self, look: Look) -> dict[str, float]:
        (x1, y1), (x2, y2) = look.first, look.last
        a = (y2 - y1) / float(np.sqrt(x2) - np.sqrt(x1))
        return {"a": a, "b": y1 - a * float(np.sqrt(x1))}
