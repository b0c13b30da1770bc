"""Features of a curve in sentences."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ridge.core.numerals import significant
from ridge.core.predicting.features import Place, Quantity, Tangent
from ridge.core.wording.answers import MOST_DIGITS, times
from ridge.core.wording.limits import level_text
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.rounding import round_with_half_width

NAMES = {
    "root": "zero", "maximum": "maximum", "minimum": "minimum", "inflexion": "inflexion point", "crossing": "intersection",
}  # fmt: skip


def word_places(places: Sequence[Place], naming: Naming) -> list[str]:
    """``minimum at t = 5.007 ± 0.012 s, h = −3.99 ± 0.10 m`` of each, with half-widths of the confidence limits, and as many
    digits that no two look alike."""
    for finer in range(MOST_DIGITS):
        found = [_place(place, naming, finer) for place in places]
        if len(set(found)) == len(found):
            break
    return found


def word_limits(level: float) -> str:
    """What the ± of features are."""
    return f"± gives the {level_text(level)} confidence limits of the curve, not of a new reading."


def _place(place: Place, naming: Naming, finer: int) -> str:
    x = naming.x_with_unit(round_with_half_width(place.x, place.x_half, finer).text)
    text = f"{NAMES[place.kind]} at {naming.x} = {x}{naming.x_on_clock(place.x)}"
    if place.kind != "root":
        text += f", {naming.y} = {naming.y_with_unit(round_with_half_width(place.y, place.y_half, finer).text)}"
    if place.beyond > 0 and math.isfinite(place.beyond_ranges):
        text += f"; extrapolation, {times(place.beyond_ranges)} times the measured range beyond the readings"
    return text


def word_quantity(quantity: Quantity, unit: str) -> str:
    """Value with its half-width."""
    if quantity.standard_error is None:
        return with_unit(significant(quantity.value, 6, strip=True).text, unit)
    return with_unit(round_with_half_width(quantity.value, quantity.high - quantity.value).text, unit)


def word_tangent(tangent: Tangent, naming: Naming) -> str:
    """The slope at a point, with its unit and limits."""
    at = naming.x_with_unit(significant(tangent.x, 6, strip=True).text)
    return f"slope at {naming.x} = {at}: {word_quantity(tangent.slope, naming.unit(-1, 1))}"
