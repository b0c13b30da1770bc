"""The Gaussian peak over a level."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from ridge.core.models.base import Array, Derived, InnerForm, Model
from ridge.core.models.declared import About, Form, Going
from ridge.core.models.grips import Grip, Look


def _trials(u: Array) -> Array:
    """Widths from a single reading to more than the range, centres inside it and just beyond."""
    steps = np.diff(u)
    steps = steps[steps > 0]
    narrowest = np.median(steps) / 2 if len(steps) else 0.1
    widths = np.geomspace(min(max(narrowest, 2e-3), 0.1), 2.0, 14)
    centres = np.concatenate([[-1.0, -0.4], np.linspace(-0.1, 1.1, 49), [1.4, 2.0]])
    return np.stack(np.meshgrid(widths, centres, indexing="ij"), axis=-1).reshape(-1, 2)


def _natural(inner: dict[str, Any], origin: Any, span: Any) -> dict[str, Any]:
    return {**inner, "width": span * inner["width"], "centre": origin + span * inner["centre"]}


class Gaussian(Model):
    """y = height·e^(−(x − centre)²/(2·width²)) + level; width is positive."""

    family = "gaussian"
    title = "Gaussian peak"
    synonyms = ("bell curve", "normal curve", "peak")
    place = 90
    forms = (Form("gaussian", title),)
    about = {
        "height": About("height of the peak above its level", "More makes the peak higher.", "h"),
        "centre": About("{x} of the peak", "More moves the peak to the right.", "μ"),
        "width": About("distance from the centre to the point of steepest slope", "More makes the peak wider.", "σ"),
        "level": About("{y} far away from the peak", "More moves the curve up.", "b"),
    }
    formula = "height*exp(-(x - centre)^2/(2*width^2)) + level"
    parameter_names = ("height", "centre", "width", "level")
    linear = ("height", "level")
    constant = "level"
    positive = ("width",)
    inverses = tuple(f"centre {side} width*sqrt(2*ln(height/(y - level)))" for side in "-+")
    inner_form = InnerForm(formula, linear, ("width", "centre"), _trials, _natural)
    derived = (
        Derived(
            "full width at half maximum", "2*sqrt(2*ln(2))*abs(width)", (1, 0), "width of the peak at half its height"
        ),
        Derived("area over the level", "height*abs(width)*sqrt(2*pi)", (1, 1), "area between the peak and its level"),
    )

    def __init__(self) -> None:
        self.fixed = {}

    def __repr__(self) -> str:
        return "Gaussian()"

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        return Going("Away from the peak it returns to the level {at_y}.", values["level"])

    def canonical(self, values: dict[str, Any]) -> dict[str, Any]:
        return values if "width" in self.fixed else {**values, "width": abs(values["width"])}

    grips = (
        Grip(
            "top", "centre", "height + level", {"centre": "to_x", "height": "to_y - level"}, "moves the top of the peak"
        ),
        Grip(
            "side",
            "centre + width*sqrt(2*ln(2))",
            "height/2 + level",
            {"width": "abs(to_x - centre)/sqrt(2*ln(2))"},
            "makes the peak wider or narrower",
        ),
        Grip("level", "high", "level", {"level": "to_y", "height": "height + level - to_y"}, "moves the level"),
    )

    def first_values(self, look: Look) -> dict[str, float]:
        top, level = look.highest, look.lowest[1]
        if look.middle[1] < (look.first[1] + look.last[1]) / 2:  # a dip rather than a peak
            top, level = look.lowest, look.highest[1]
        above = look.x[np.abs(look.y - level) >= abs(top[1] - level) / 2]
        across = float(np.ptp(above)) or float(np.ptp(look.x)) / 6
        return {"height": top[1] - level, "centre": top[0], "width": across / 2.355, "level": level}
