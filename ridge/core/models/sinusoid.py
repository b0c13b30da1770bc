"""The sinusoid y = amplitude·sin(angular_frequency·x + phase) + midline."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property
from typing import Any

import numpy as np

from ridge.core.errors import OutsideSense
from ridge.core.formula import parse
from ridge.core.formula.tree import Node
from ridge.core.models.base import Derived, InnerForm, Model
from ridge.core.models.declared import About, Form, Going, Option
from ridge.core.models.grips import Grip, Look
from ridge.core.models.periods import angular_frequencies, high_frequencies


class Sinusoid(Model):
    """y = amplitude·sin(angular_frequency·x + phase) + midline.

    Parameters
    ----------
    degrees : bool
        Whether angles are counted in degrees: then angular_frequency is in degrees per unit of x.
    form : "sin" or "cos"

    amplitude and angular_frequency are positive, phase lies in (−π, π] or (−180°, 180°].
    The frequency is searched up to as many cycles over the measured range as half the readings, ten at least;
    of frequencies that fit equally well the lowest is taken.
    """

    family = title = "sinusoid"
    synonyms = ("sine", "cosine", "wave", "oscillation", "tide", "equilibrium")
    place = 70
    options = (
        Option("form", "choice", "sin", "Sine or cosine", (("sin", "as a sine"), ("cos", "as a cosine"))),
        Option("degrees", "flag", False, "Angles in", ((False, "angles in radians"), (True, "angles in degrees"))),
    )
    forms = (Form("sinusoid", "sinusoid"),)
    periodic = True
    about = {
        "amplitude": About(
            "half the difference between crest and trough", "More makes crests higher and troughs deeper.", "A"
        ),
        "angular_frequency": About(
            "angle gained per {x_step}", "More brings the crests closer together.", "ω", unit=(-1, 0), angle=True
        ),
        "phase": About("angle where {x} is zero", "More moves the curve to the left.", "φ", unit=(0, 0), angle=True),
        "midline": About("middle between trough and crest", "More moves the curve up.", "d"),
    }
    parameter_names = ("amplitude", "angular_frequency", "phase", "midline")
    linear = ("amplitude", "midline")
    constant = "midline"
    positive = ("amplitude", "angular_frequency")

    def __init__(self, degrees: bool = False, form: str = "sin") -> None:
        if form not in ("sin", "cos"):
            raise OutsideSense("form", "is 'sin' or 'cos'.")
        self.degrees, self.form = degrees, form
        self.formula = f"amplitude*{form}(angular_frequency*x + phase) + midline"
        self.inner_form = InnerForm(
            "s*sin(w*x) + c*cos(w*x) + d",
            ("s", "c", "d"),
            ("w",),
            angular_frequencies,
            self._natural,
            more=high_frequencies,
        )
        self.fixed = {}

    def __repr__(self) -> str:
        return f"Sinusoid(degrees={self.degrees}, form={self.form!r})"

    @cached_property
    def expression(self) -> Node:
        return parse(self.formula, degrees=self.degrees).tree

    @property
    def name(self) -> str:
        return f"{'sinusoid' if self.form == 'sin' else 'cosine'} in {'degrees' if self.degrees else 'radians'}"

    @property
    def angle_unit(self) -> str:  # type: ignore[override]
        return "°" if self.degrees else "rad"

    def beyond(self, values: Mapping[str, float], x: float, right: bool) -> Going:
        return Going(
            "A sinusoid repeats itself for ever with the same height; a small error of the period adds up with every cycle."
        )

    def cycles(self, values: Mapping[str, float], low: float, high: float) -> float:
        return abs(values["angular_frequency"]) * (high - low) / self.turn

    @property
    def turn(self) -> float:
        """A full turn: 360 or 2π."""
        return 360.0 if self.degrees else 2 * np.pi

    def _natural(self, inner: dict[str, Any], origin: Any, span: Any) -> dict[str, Any]:
        radian = self.turn / (2 * np.pi)
        frequency = inner["w"] / span
        phase = np.arctan2(inner["c"], inner["s"]) if self.form == "sin" else np.arctan2(-inner["s"], inner["c"])
        return {
            "amplitude": np.hypot(inner["s"], inner["c"]),
            "angular_frequency": frequency * radian,
            "phase": (phase - frequency * origin) * radian,
            "midline": inner["d"],
        }

    def canonical(self, values: dict[str, Any]) -> dict[str, Any]:
        values, turn = dict(values), self.turn
        if values["angular_frequency"] < 0 and not {"angular_frequency", "phase"} & set(self.fixed):
            values["angular_frequency"] = -values["angular_frequency"]
            values["phase"] = -values["phase"]
            if self.form == "sin":
                values["amplitude"] = -values["amplitude"]
        if values["amplitude"] < 0 and not {"amplitude", "phase"} & set(self.fixed):
            values["amplitude"] = -values["amplitude"]
            values["phase"] = values["phase"] + turn / 2
        if "phase" not in self.fixed:
            values["phase"] = values["phase"] - turn * np.ceil(values["phase"] / turn - 0.5)
        return values

    @property
    def derived(self) -> tuple[Derived, ...]:
        turn = "360" if self.degrees else "2*pi"
        return (
            Derived("period", f"{turn}/angular_frequency", (1, 0), "{x} from one crest to the next"),
            Derived("frequency", f"angular_frequency/({turn})", (-1, 0), "cycles per {x_step}"),
            Derived("shift along x", "-phase/angular_frequency", (1, 0), "{x} where the cycle begins"),
            Derived("greatest value", "midline + abs(amplitude)", (0, 1), "{y} at a crest"),
            Derived("least value", "midline - abs(amplitude)", (0, 1), "{y} at a trough"),
        )

    def derived_beyond(self, values: Mapping[str, float], last: float) -> tuple[Derived, ...]:
        """The first crest past the last reading."""
        top = (0.0 if self.form == "cos" else 0.25) + (0.0 if values["amplitude"] > 0 else 0.5)
        if not values["angular_frequency"] > 0:
            return ()
        turns = np.ceil((values["angular_frequency"] * last + values["phase"]) / self.turn - top) + top
        turn = "360" if self.degrees else "2*pi"
        at = f"({turns:.2f}*{turn} - phase)/angular_frequency"
        return (Derived("next crest", at, (1, 0), "{x} of the first crest past the readings"),)

    @property
    def _crest(self) -> float:
        """Angle of a crest, in turns."""
        return 0.0 if self.form == "cos" else 0.25

    @property
    def grips(self) -> tuple[Grip, ...]:
        turn, top = repr(self.turn), repr(self._crest * self.turn)
        # The first crest inside the range, and the trough that follows it.
        first = f"ceil((angular_frequency*low + phase - {top})/{turn})"
        angle = f"({top} + {turn}*{first})"
        crest = f"(({angle} - phase)/angular_frequency)"
        trough = f"({crest} + {turn}/2/angular_frequency)"
        faster = f"({turn}/2/(to_x - {crest}))"
        return (
            Grip(
                "crest",
                crest,
                "midline + amplitude",
                {"amplitude": "to_y - midline", "phase": f"{angle} - angular_frequency*to_x"},
                "raises the crest and moves the curve sideways",
            ),
            Grip(
                "trough",
                trough,
                "midline - amplitude",
                {"angular_frequency": faster, "phase": f"{angle} - {crest}*{faster}", "amplitude": "midline - to_y"},
                "changes the period, and how deep the trough is",
            ),
            Grip("midline", "middle", "midline", {"midline": "to_y"}, "moves the curve up and down"),
        )

    def first_values(self, look: Look) -> dict[str, float]:
        """Midline and amplitude from the extremes, the period from the crossings of the middle, the phase from the crest."""
        top, bottom = look.highest, look.lowest
        frequency = self.turn / 2 / look.half_period()
        phase = self._crest * self.turn - frequency * top[0]
        found = {"amplitude": (top[1] - bottom[1]) / 2, "angular_frequency": frequency, "phase": phase}
        return self.canonical({**found, "midline": (top[1] + bottom[1]) / 2})
