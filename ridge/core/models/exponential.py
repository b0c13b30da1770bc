"""Exponential growth and decay, with and without a level."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from ridge.core.models.base import Array, Derived, InnerForm, Model
from ridge.core.models.declared import About, Axis, Form, Going, LogarithmicLine, Option, StraightForm
from ridge.core.models.grips import Grip, Look

_SIZES = np.geomspace(1e-2, 2e4, 56)
_BOTH = np.concatenate([-_SIZES[::-1], _SIZES])[:, None]


def _rates(u: Array) -> Array:
    """Rates of both signs: from nearly straight over the range to gone within a tenth of the smallest step."""
    steps = u[1:] - u[:-1]
    steps = steps[steps > 0]
    fastest = 10.0 / steps.min() if len(steps) else 10.0
    beyond = min(len(_SIZES) - 20, max(0, len(_SIZES) - int(np.searchsorted(_SIZES, fastest)) - 1))
    return _BOTH[beyond : len(_BOTH) - beyond]


def _natural(inner: dict[str, Any], origin: Any, span: Any) -> dict[str, Any]:
    rate = inner["k"] / span
    return {**inner, "a": inner["a"] * np.exp(-rate * origin), "k": rate}


class Exponential(Model):
    """y = a·e^(k·x), or with ``level=True`` y = a·e^(k·x) + c."""

    family = title = "exponential"
    synonyms = ("growth", "decay", "half-life", "cooling", "charging")
    place = 30
    options = (Option("level", "flag", False),)
    forms = (
        Form("exponential", "exponential", {"level": False}),
        Form("exponential-level", "exponential with level", {"level": True}),
    )

    def __init__(self, level: bool = False) -> None:
        self.level = level
        self.parameter_names = ("a", "k", "c") if level else ("a", "k")
        self.linear = ("a", "c") if level else ("a",)
        self.constant = "c" if level else None
        self.flattening = None if level else "k"
        self.inverses = (f"ln((y{' - c' if level else ''})/a)/k",)
        self.formula = "a*exp(k*x) + c" if level else "a*exp(k*x)"
        self.inner_form = InnerForm(self.formula, self.linear, ("k",), _rates, _natural)
        self.logarithms = None if level else LogarithmicLine(of_x=False, of_y=True, slope="k", factor="a")
        self.fixed = {}

    def __repr__(self) -> str:
        return f"Exponential(level={self.level})" if self.level else "Exponential()"

    @property
    def name(self) -> str:
        return "exponential with level" if self.level else "exponential"

    @property
    def about(self) -> Mapping[str, About]:
        a = (
            About("{y} above its level where {x} is zero", "More stretches the curve away from its level.")
            if self.level
            else About("{y} where {x} is zero", "More stretches the curve up.")
        )
        return {
            "a": a,
            "k": About(
                "relative rate of change of {y} per {x_step}; one more multiplies {y} by e^k",
                "Further from zero lets the curve rise or fall faster; its sign says which.",
            ),
            "c": About(
                "level that {y} approaches", "More moves the whole curve up, with the level that it approaches."
            ),
        }

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        if values["a"] <= 0:
            return "ln {y} has no value here, since the curve lies below its level."
        y = Axis("ln", shift=values.get("c", 0.0))
        return StraightForm(Axis(), y, values["k"], float(np.log(values["a"])))

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        if values["k"] < 0 if right else values["k"] > 0:
            return Going("On this side the exponential levels off towards {at_y}.", values.get("c", 0.0))
        return Going("On this side the exponential moves away ever faster; few things go on like that.")

    @property
    def derived(self) -> tuple[Derived, ...]:
        distance = "the distance of {y} from its level" if self.level else "{y}"
        return (
            Derived("half-life", "-ln(2)/k", (1, 0), f"{{x}} in which {distance} halves", when="-k"),
            Derived("doubling time", "ln(2)/k", (1, 0), f"{{x}} in which {distance} doubles", when="k"),
            Derived(
                "time constant", "1/abs(k)", (1, 0), f"{{x}} in which {distance} changes by the factor e", when="abs(k)"
            ),
            Derived("growth factor", "exp(k)", (0, 0), f"factor by which {distance} changes for one {{x_step}} more"),
            *((Derived("limit", "c", (0, 1), "level that {y} approaches"),) if self.level else ()),
        )

    @property
    def grips(self) -> tuple[Grip, ...]:
        over = " - c" if self.level else ""
        begin = Grip(
            "begin",
            "low",
            "y_low",
            {"a": f"(to_y{over})*exp(-k*low)"},
            "raises or lowers where the curve begins",
        )
        rate = f"ln((to_y{over})/(y_low{over}))/(middle - low)"
        bend = Grip(
            "bend",
            "middle",
            "y_middle",
            {"k": rate, "a": f"(y_low{over})*exp(-low*{rate})"},
            "lets the curve fall or rise faster, from where it begins",
        )
        if not self.level:
            return (begin, bend)
        level = Grip(
            "level",
            "high",
            "c",
            {"c": "to_y", "a": "a"},
            "moves the level, and the curve with it",
        )
        return (begin, bend, level)

    def first_values(self, look: Look) -> dict[str, float]:
        """The level a little past the flat end; the rate from the first reading and the one in the middle of the way."""
        (x1, y1), (x2, y2) = look.first, look.last
        if not self.level:
            k = float(np.log(y2 / y1)) / (x2 - x1)
            return {"a": y1 * float(np.exp(-k * x1)), "k": k}
        slopes = np.abs([look.y[len(look.y) // 2] - y1, y2 - look.y[len(look.y) // 2]])
        flat, steep = ((x2, y2), (x1, y1)) if slopes[0] >= slopes[1] else ((x1, y1), (x2, y2))
        c = flat[1] + 0.05 * (flat[1] - steep[1])
        half = look.x_at((steep[1] + c) / 2)
        k = float(-np.log(2) / (half - steep[0])) if half != steep[0] else -4 / (x2 - x1)
        return {"a": (steep[1] - c) * float(np.exp(-k * steep[0])), "k": k, "c": c}
