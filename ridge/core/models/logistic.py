"""Logistic growth between two levels."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from ridge.core.models.base import Array, Derived, InnerForm, Model
from ridge.core.models.declared import About, Form, Going, Option
from ridge.core.models.grips import Grip, Look


def _trials(u: Array) -> Array:
    """Rates from a faint bend to a step between neighbours, midpoints inside the range and beyond."""
    steps = np.diff(u)
    steps = steps[steps > 0]
    fastest = 8.0 / np.median(steps) if len(steps) else 8.0
    sizes = np.geomspace(0.3, min(max(fastest, 10.0), 1e3), 16)
    rates = np.concatenate([-sizes[::-1], sizes])
    midpoints = np.concatenate([[-3.0, -1.2, -0.5], np.linspace(-0.1, 1.1, 25), [1.5, 2.2, 4.0]])
    return np.stack(np.meshgrid(rates, midpoints, indexing="ij"), axis=-1).reshape(-1, 2)


def _natural(inner: dict[str, Any], origin: Any, span: Any) -> dict[str, Any]:
    natural = {**inner, "rate": inner["rate"] / span, "midpoint": origin + span * inner["midpoint"]}
    if "rise" in natural:
        natural["upper"] = natural["lower"] + natural.pop("rise")
    return natural


class Logistic(Model):
    """y = upper/(1 + e^(−rate·(x − midpoint))), or with ``level=True`` from a lower level instead of zero.

    With a level, upper lies above lower and rate may have either sign.
    """

    family = title = "logistic"
    synonyms = ("S curve", "sigmoid", "saturation", "growth to a limit")
    place = 80
    options = (Option("level", "flag", False),)
    forms = (
        Form("logistic", "logistic", {"level": False}),
        Form("logistic-level", "logistic with level", {"level": True}),
    )
    about = {
        "upper": About("upper limit of {y}", "More raises the upper level.", "L"),
        "lower": About("lower limit of {y}", "More raises the lower level.", "l"),
        "rate": About(
            "relative rate at which the change begins",
            "Further from zero makes the step steeper; its sign says whether it rises.",
            "k",
        ),
        "midpoint": About("{x} half-way between the levels", "More moves the step to the right.", "x_0"),
    }

    def __init__(self, level: bool = False) -> None:
        self.level = level
        self.fixed = {}
        if level:
            self.parameter_names: tuple[str, ...] = ("upper", "rate", "midpoint", "lower")
            self.linear: tuple[str, ...] = ("upper", "lower")
            self.formula = "lower + (upper - lower)/(1 + exp(-rate*(x - midpoint)))"
            inner, inner_linear = "lower + rise/(1 + exp(-rate*(x - midpoint)))", ("rise", "lower")
            self.constant = "lower"
        else:
            self.parameter_names = ("upper", "rate", "midpoint")
            self.linear = inner_linear = ("upper",)  # type: ignore[assignment]
            self.formula = inner = "upper/(1 + exp(-rate*(x - midpoint)))"
            self.constant = None
            self.flattening = "rate"
        self.inverses = (f"midpoint - ln((upper - y)/(y{' - lower' if level else ''}))/rate",)
        self.inner_form = InnerForm(inner, inner_linear, ("rate", "midpoint"), _trials, _natural)

    def __repr__(self) -> str:
        return f"Logistic(level={self.level})" if self.level else "Logistic()"

    @property
    def name(self) -> str:
        return "logistic with level" if self.level else "logistic"

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        rising = values["rate"] > 0 if right else values["rate"] < 0
        level, name = (values["upper"], "upper") if rising else (values.get("lower", 0.0), "lower")
        return Going(
            f"It levels off at its {name} limit, {{at_y}}, known only as well as the readings come near it.", level
        )

    def canonical(self, values: dict[str, Any]) -> dict[str, Any]:
        if not self.level or values["upper"] >= values["lower"] or {"upper", "lower", "rate"} & set(self.fixed):
            return values
        return {**values, "upper": values["lower"], "lower": values["upper"], "rate": -values["rate"]}

    @property
    def derived(self) -> tuple[Derived, ...]:
        rise = "(upper - lower)" if self.level else "upper"
        middle = "(upper + lower)/2" if self.level else "upper/2"
        return (
            Derived("steepest slope", f"{rise}*rate/4", (-1, 1), "greatest rate of change, at the midpoint"),
            Derived("y at the midpoint", middle, (0, 1), "{y} half-way between the levels"),
        )

    @property
    def grips(self) -> tuple[Grip, ...]:
        lower = "lower" if self.level else "0"
        middle = f"(upper + {lower})/2"
        # A tenth of the range past the midpoint: its height tells the rate.
        past = "(high - low)/10"
        tell = f"(upper - ({lower}))"
        found: list[Grip] = [
            Grip("midpoint", "midpoint", middle, {"midpoint": "to_x"}, "moves the step sideways"),
            Grip("upper", "if(rate > 0, high, low)", "upper", {"upper": "to_y"}, "moves the upper level"),
            Grip(
                "rate",
                f"midpoint + {past}",
                f"({lower}) + {tell}/(1 + exp(-rate*{past}))",
                {"rate": f"-ln({tell}/(to_y - ({lower})) - 1)/({past})"},
                "makes the step steeper or flatter",
            ),
        ]
        if self.level:
            found.append(Grip("lower", "if(rate > 0, low, high)", "lower", {"lower": "to_y"}, "moves the lower level"))
        return tuple(found)

    def first_values(self, look: Look) -> dict[str, float]:
        top, bottom = look.highest[1], look.lowest[1] if self.level else 0.0
        near, far = look.x_at(bottom + 0.25 * (top - bottom)), look.x_at(bottom + 0.75 * (top - bottom))
        width = far - near or (look.last[0] - look.first[0]) / 4
        found = {"upper": top, "rate": 2 * float(np.log(3)) / width, "midpoint": (near + far) / 2}
        return {**found, "lower": bottom} if self.level else found
