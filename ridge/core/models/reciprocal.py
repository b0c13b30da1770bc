"""The reciprocal model y = a/x + b."""

from __future__ import annotations

from ridge.core.models.base import LinearForm, Model
from ridge.core.models.grips import Grip, Look


class Reciprocal(Model):
    """y = a/x + b, a straight line against 1/x."""

    family = "reciprocal"
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

    def first_values(self, look: Look) -> dict[str, float]:
        (x1, y1), (x2, y2) = look.first, look.last
        a = (y1 - y2) / (1 / x1 - 1 / x2)
        return {"a": a, "b": y2 - a / x2}

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "Reciprocal()"
