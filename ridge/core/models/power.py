"""The power law y = a·xⁿ."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from ridge.core.models.base import Array, InnerForm, Model
from ridge.core.models.declared import About, Axis, Form, Going, LogarithmicLine, StraightForm
from ridge.core.models.grips import Grip, Look


def _exponents(u: Array) -> Array:
    sizes = np.geomspace(0.02, 40, 40)
    return np.concatenate([-sizes[::-1], [0.0], sizes])[:, None]


def _natural(inner: dict[str, Any], _: Any, span: Any) -> dict[str, Any]:
    return {"a": inner["a"] * span ** -inner["n"], "n": inner["n"]}


class Power(Model):
    """y = a·xⁿ. For positive x; x takes the number in the unit of its column."""

    family = "power"
    title = "power law"
    synonyms = ("power function", "allometric")
    place = 50
    forms = (Form("power", title),)
    logarithms = LogarithmicLine(of_x=True, of_y=True, slope="n", factor="a")
    about = {
        # It carries the unit of y: the value of y where x is one.
        "a": About("{y} where {x} is {x_one}", "More stretches the curve up.", unit=(0, 1)),
        "n": About(
            "per cent that {y} changes for one per cent more {x}",
            "Changes the curvature: above 1 the curve steepens, below 1 it flattens, below 0 it falls.",
        ),
    }
    formula = "a*x^n"
    parameter_names = ("a", "n")
    linear = ("a",)
    constant = None
    flattening = "n"
    inverses = ("(y/a)^(1/n)",)
    inner_form = InnerForm(formula, linear, ("n",), _exponents, _natural, shifts=False)

    grips = (
        Grip("scale", "middle", "y_middle", {"a": "a*to_y/y_middle"}, "stretches the curve up and down"),
        Grip(
            "exponent",
            "high",
            "y_high",
            {
                "n": "ln(to_y/y_middle)/ln(high/middle)",
                "a": "y_middle*middle^(-ln(to_y/y_middle)/ln(high/middle))",
            },
            "changes the exponent, from the middle of the curve on",
        ),
    )

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        if values["a"] <= 0:
            return "ln {y} has no value where {y} is negative."
        return StraightForm(Axis("ln"), Axis("ln"), values["n"])

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        rises = (values["n"] > 0) == ((values["a"] > 0) == right)
        return Going(
            f"A power law keeps {'rising' if rises else 'falling'} on this side, by the same factor each time {{x}} is "
            f"{'doubled' if right else 'halved'}."
        )

    def first_values(self, look: Look) -> dict[str, float]:
        (x1, y1), (x2, y2) = look.first, look.last
        n = float(np.log(y2 / y1) / np.log(x2 / x1))
        return {"a": y2 / x2**n, "n": n}

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "Power()"
