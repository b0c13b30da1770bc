"""The straight line y = slope·x + intercept, the intercept free or fixed."""

from __future__ import annotations

from collections.abc import Mapping

from ridge.core.models.base import Derived, LinearForm, Model
from ridge.core.models.declared import About, Form, Going, StraightForm
from ridge.core.models.grips import Grip, Look


class Line(Model):
    """y = slope·x + intercept.

    Parameters
    ----------
    intercept : float, optional
        Keep the intercept at this value (``Line(intercept=0.0)`` is the line through the origin).
        Left out, it is fitted.
    """

    family = title = graph = "line"
    synonyms = ("straight line", "linear", "trend", "proportional")
    place = 10
    forms = (Form("line", "line"),)
    bends = False
    about = {
        "slope": About("change in {y} for one {x_step} more", "More makes the line steeper.", "m"),
        "intercept": About("{y} where {x} is zero", "More moves the line up.", "c"),
    }
    formula = "slope*x + intercept"
    parameter_names = linear = ("slope", "intercept")
    linear_form = LinearForm((1, 0))
    constant = "intercept"
    derived = (
        Derived("x-intercept", "-intercept/slope", (1, 0), "{x} where {y} is zero", when="abs(slope)", zero_of=0),
        Derived(
            "angle of slope",
            "atan(slope)*180/pi",
            (0, 0),
            "angle of the line to the {x} axis in plain numbers, whatever the scales of a plot",
            angle=True,
        ),
    )

    grips = (
        Grip("shift", "middle", "y_middle", {"intercept": "to_y - slope*middle"}, "moves the line up and down"),
        Grip(
            "turn",
            "high",
            "y_high",
            {
                "slope": "(to_y - y_middle)/(high - middle)",
                "intercept": "y_middle - middle*(to_y - y_middle)/(high - middle)",
            },
            "turns the line about its middle",
        ),
    )

    def first_values(self, look: Look) -> dict[str, float]:
        (x1, y1), (x2, y2) = look.first, look.last
        slope = (y2 - y1) / (x2 - x1)
        return {"slope": slope, "intercept": y1 - slope * x1}

    def __init__(self, intercept: float | None = None) -> None:
        self.fixed = {}
        if intercept is not None:
            self.fixed = self.with_fixed({"intercept": intercept}).fixed

    @property
    def name(self) -> str:
        if "intercept" not in self.fixed:
            return "line"
        return "line through the origin" if self.fixed["intercept"] == 0 else "line with fixed intercept"

    def straight(self, values: Mapping[str, float]) -> StraightForm | str:
        return "A line is straight already."

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        return Going("A line goes on for ever: every unit of {x} changes {y} by the same amount.")

    def __repr__(self) -> str:
        return f"Line(intercept={self.fixed['intercept']})" if "intercept" in self.fixed else "Line()"
