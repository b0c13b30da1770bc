"""The reciprocal model y = a/x + b."""

from __future__ import annotations

from ridge.core.models.base import LinearForm, Model


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

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "Reciprocal()"
