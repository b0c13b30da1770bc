"""Logarithmic models y = a·ln(x) + b, and with a shift y = a·ln(x − x0) + b."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from ridge.core.models.base import Array, Derived, InnerForm, LinearForm, Model
from ridge.core.models.declared import About, Axis, Form, Going, LogarithmicLine, Option, StraightForm
from ridge.core.models.grips import Grip, Look


def _trials(u: Array) -> Array:
    """Shifts below the first reading, from a hair's breadth to a thousand ranges away."""
    return -np.geomspace(1e-6, 1e3, 80)[:, None]


def _natural(inner: dict[str, Any], origin: Any, span: Any) -> dict[str, Any]:
    return {"a": inner["a"], "x0": origin + span * inner["x0"], "b": inner["b"] - inner["a"] * np.log(span)}


class Logarithmic(Model):
    """y = a·ln(x) + b, a straight line against ln x.

    Parameters
    ----------
    shift : bool
        Whether x is counted from a fitted x0, which lies below the first reading: y = a·ln(x − x0) + b.

    ln x takes the number of x in the unit of its column. A form such as a·ln(p·x + q) + d has one parameter too
    many; it is this one with x0 = −q/p and b = d + a·ln p.
    """

    family = title = "logarithmic"
    synonyms = ("logarithm", "ln")
    place = 40
    options = (Option("shift", "flag", False),)
    forms = (
        Form("logarithmic", "logarithmic", {"shift": False}),
        Form("logarithmic-shift", "logarithmic with shift", {"shift": True}),
    )
    linear = ("a", "b")
    constant = "b"
    derived = (Derived("change per doubling", "a*ln(2)", (0, 1), "change in {y} when {x} doubles"),)
    formula = "a*ln(x) + b"

    def __init__(self, shift: bool = False) -> None:
        self.fixed = {}
        self.shift = shift
        self.logarithms = None if shift else LogarithmicLine(of_x=True, of_y=False, slope="a", factor="b")
        self.inverses = ("x0 + exp((y - b)/a)",) if shift else ("exp((y - b)/a)",)
        if shift:
            self.parameter_names: tuple[str, ...] = ("a", "x0", "b")
            self.formula = "a*ln(x - x0) + b"
            self.inner_form = InnerForm(self.formula, self.linear, ("x0",), _trials, _natural)
        else:
            self.parameter_names = ("a", "b")
            self.linear_form = LinearForm(
                (1, 0),
                np.log,
                "ln x has no value where x is 0 or negative",
                "Set such readings aside, allow a shift, or choose another model.",
                lambda x: (1 / x, -1 / (x * x)),
            )

    @property
    def name(self) -> str:
        return "logarithmic with shift" if self.shift else "logarithmic"

    @property
    def about(self) -> Mapping[str, About]:
        past = " past its beginning" if self.shift else ""
        return {
            "a": About("change in {y} when {x} grows e-fold", "More makes the curve steeper."),
            "b": About(f"{{y}} where {{x}} is {{x_one}}{past}", "More moves the curve up."),
            "x0": About("{x} at which the logarithm begins", "Moves where the curve begins along {x}.", "x_0"),
        }

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        return StraightForm(Axis("ln", shift=values.get("x0", 0.0)), Axis(), values["a"])

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        rises = values["a"] > 0
        if right:
            way = "rising" if rises else "falling"
            return Going(f"A logarithm keeps {way}, ever more slowly, and never levels off.")
        way = "down" if rises else "up"
        return Going(
            f"On this side a logarithm runs off {way} ever faster and ends at {{at_x}}.", at_x=values.get("x0", 0.0)
        )

    def __repr__(self) -> str:
        return "Logarithmic(shift=True)" if self.shift else "Logarithmic()"

    @property
    def grips(self) -> tuple[Grip, ...]:
        inner = "{} - x0" if self.shift else "{}"
        at_high, at_middle = inner.format("high"), inner.format("middle")
        steep = f"(to_y - y_middle)/ln(({at_high})/({at_middle}))"
        return (
            Grip("shift", "middle", "y_middle", {"b": "b + to_y - y_middle"}, "moves the curve up and down"),
            Grip(
                "steep",
                "high",
                "y_high",
                {"a": steep, "b": f"y_middle - ln({at_middle})*{steep}"},
                "makes the curve steeper or flatter about its middle",
            ),
        )

    def first_values(self, look: Look) -> dict[str, float]:
        (x1, y1), (x2, y2) = look.first, look.last
        x0 = x1 - 0.05 * (x2 - x1) if self.shift else 0.0
        a = (y2 - y1) / float(np.log((x2 - x0) / (x1 - x0)))
        found = {"a": a, "b": y1 - a * float(np.log(x1 - x0))}
        return {**found, "x0": x0} if self.shift else found
