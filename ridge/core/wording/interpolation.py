"""Interpolations in words: what they are called, what they do, and why they cannot be judged."""

from __future__ import annotations

from ridge.core.interpolation import Interpolation
from ridge.core.numerals import count_word, significant
from ridge.core.predicting.beyond import distance_beyond, in_ranges
from ridge.core.wording.answers import extrapolation
from ridge.core.wording.naming import Naming

_ENDS = {
    "natural": "without curvature at its ends",
    "not-a-knot": "whose first two and last two pieces are one cubic each",
    "clamped": "with given slopes at its ends",
    "periodic": "that repeats itself",
}
NO_R_SQUARED = (
    "It has no R² and no residuals: it meets every reading by construction, whatever they are, so it "
    "cannot be judged by them."
)


def interpolation_name(kind: str, ends: str = "natural", degree: int = 3) -> str:
    """``cubic spline, natural ends``: as a sentence would call it."""
    if kind == "cubic-spline":
        return f"cubic spline, {ends} ends" if ends in ("natural", "clamped") else f"cubic spline, {ends}"
    if kind == "spline":
        return f"spline of degree {degree}"
    return {"linear": "straight pieces", "polynomial": "polynomial through all", "monotone": "monotone cubic"}[kind]


def how_it_goes(curve: Interpolation) -> str:
    """What the curve does between the readings, in a sentence."""
    nodes = len(curve.x)
    pieces = count_word(max(1, nodes - 1), capital=True)
    if curve.kind == "linear":
        return f"{pieces} straight pieces, each from one reading to the next."
    if curve.kind == "polynomial":
        return f"One polynomial of degree {nodes - 1} at most through all {nodes} readings."
    if curve.kind == "monotone":
        return f"{pieces} cubic pieces without a jump in the slope; between two readings the curve never turns."
    if curve.kind == "spline":
        return f"Pieces of degree {curve.degree} that join without a visible seam."
    return f"{pieces} cubic pieces without a jump in slope or curvature, {_ENDS[curve.ends]}."


def beyond_interpolation(curve: Interpolation) -> str:
    """What it does past the first and the last reading."""
    if curve.kind == "linear":
        return "Beyond the ends it goes on straight from the two nearest readings."
    if curve.kind == "polynomial":
        return "Beyond the ends the polynomial goes on, and as a rule runs off steeply."
    if curve.kind == "cubic-spline" and curve.ends == "periodic":
        return "Beyond the ends it repeats itself."
    return "Beyond the ends its outermost piece goes on; no reading supports it there."


def word_between(curve: Interpolation, x: float, y: float, naming: Naming, *, asked_y: bool = False) -> tuple[str, str]:
    """The result of asking an interpolation, and the sentence about its limits. ``asked_y``: x was looked for."""
    name = interpolation_name(curve.kind, curve.ends, curve.degree)
    if asked_y:
        result = f"{naming.x} = {naming.x_with_unit(significant(x, 6, strip=True).text)}"
    else:
        result = f"{naming.y} = {naming.y_with_unit(significant(y, 6, strip=True).text)}"
    given = naming.y_given(y) if asked_y else naming.x_given(x)
    how = "Extrapolated" if float(distance_beyond(curve.readings, x)) else "Interpolated"
    return result, f"{how} at {given} by {name}; an interpolation has no uncertainty."


def word_place_between(curve: Interpolation, x: float, naming: Naming) -> str:
    """Where x stands to the readings, and what the curve does there; empty between them."""
    beyond = word_beyond(curve, x, naming)
    return f"{beyond}. {beyond_interpolation(curve)}" if beyond else ""


def word_beyond(curve: Interpolation, x: float, naming: Naming) -> str:
    """How far x lies outside the readings; empty between them."""
    beyond = float(distance_beyond(curve.readings, x))
    if beyond == 0:
        return ""
    return extrapolation(x, beyond, float(in_ranges(curve.readings, beyond)), *curve.readings.measured_range, naming)
