"""What each handle does to the curve, and how a given curve differs from a fitted one, in words."""

from __future__ import annotations

import numpy as np

from ridge.core.by_hand import Handle
from ridge.core.models import Model, Polynomial
from ridge.core.readings import Array
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import significant

_DOES = {
    ("constant", "c"): "More moves the line up.",
    ("line", "slope"): "More makes the line steeper.",
    ("line", "intercept"): "More moves the line up.",
    ("exponential", "k"): "Further from zero lets the curve rise or fall faster; its sign says which.",
    ("exponential", "c"): "More moves the whole curve up, with the level that it approaches.",
    ("logarithmic", "a"): "More makes the curve steeper.",
    ("logarithmic", "b"): "More moves the curve up.",
    ("logarithmic", "x0"): "Moves where the curve begins along {x}.",
    ("power", "a"): "More stretches the curve up.",
    ("power", "n"): "Changes the curvature: above 1 the curve steepens, below 1 it flattens, below 0 it falls.",
    ("reciprocal", "a"): "More makes the curve steeper near zero.",
    ("reciprocal", "b"): "More moves the curve up, with the level that it approaches.",
    ("sinusoid", "amplitude"): "More makes crests higher and troughs deeper.",
    ("sinusoid", "angular_frequency"): "More brings the crests closer together.",
    ("sinusoid", "phase"): "More moves the curve to the left.",
    ("sinusoid", "midline"): "More moves the curve up.",
    ("logistic", "upper"): "More raises the upper level.",
    ("logistic", "lower"): "More raises the lower level.",
    ("logistic", "rate"): "Further from zero makes the step steeper; its sign says whether it rises.",
    ("logistic", "midpoint"): "More moves the step to the right.",
    ("gaussian", "height"): "More makes the peak higher.",
    ("gaussian", "centre"): "More moves the peak to the right.",
    ("gaussian", "width"): "More makes the peak wider.",
    ("gaussian", "level"): "More moves the curve up.",
}


def what_it_does(model: Model, handle: Handle, naming: Naming) -> str:
    """What turning a parameter up does to the curve, in the study's own symbols."""
    if isinstance(model, Polynomial):
        power = int(handle.name.removeprefix("c"))
        if power == 0:
            return "More moves the curve up."
        if power == 1:
            return f"More tilts the curve, about {naming.x} = 0."
        if power == 2 and model.degree == 2:
            return "Further from zero makes the parabola narrower; its sign says whether it opens upwards."
    if (model.family, handle.name) == ("exponential", "a"):
        return (
            "More stretches the curve away from its level."
            if "c" in model.parameter_names
            else "More stretches the curve up."
        )
    said = _DOES.get((model.family, handle.name))
    if said:
        return said.format(x=naming.x)
    at = naming.x_with_unit(significant(handle.at_x, 3, strip=True).text)
    return f"It moves the curve most near {naming.x} = {at}."


def difference_sentence(x: Array, off: Array, letter: str, other: str, naming: Naming) -> str:
    """How far a given curve lies from another over the measured range; ``off``: the one minus the other at ``x``."""
    known = np.isfinite(off)
    farthest = int(np.nanargmax(np.where(known, np.abs(off), np.nan)))
    typical = float(np.sqrt(np.mean(off[known] ** 2)))
    if typical == 0:
        return f"{letter} is the same as {other} over the measured range."
    most = naming.y_with_unit(significant(abs(float(off[farthest])), 2).text)
    at = naming.x_with_unit(significant(float(x[farthest]), 3, strip=True).text)
    side = "above" if off[farthest] > 0 else "below"
    rms = naming.y_with_unit(significant(typical, 2).text)
    return (
        f"Over the measured range {letter} lies typically {rms} from {other}, at most {most} {side} it, "
        f"at {naming.x} = {at}."
    )
