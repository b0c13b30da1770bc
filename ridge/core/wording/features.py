"""Features of a curve in sentences."""

from __future__ import annotations

import math
from collections.abc import Sequence

from ridge.core.numerals import significant
from ridge.core.predicting.features import Place, Quantity, Tangent
from ridge.core.wording.answers import MOST_DIGITS, times
from ridge.core.wording.limits import level_text, with_interval
from ridge.core.wording.naming import Naming, with_unit

NAMES = {
    "root": "zero", "maximum": "maximum", "minimum": "minimum", "inflexion": "inflexion point", "crossing": "intersection",
}  # fmt: skip


def word_places(places: Sequence[Place], naming: Naming, level: float) -> list[str]:
    """``minimum at t = 5.007 s (95 % CI 4.995 to 5.019), h = −3.99 m (95 % CI −4.09 to −3.89)`` of each, with as many digits
    as tell all of them apart."""
    for finer in range(MOST_DIGITS):
        found = [_place(place, naming, level, finer) for place in places]
        if len(set(found)) == len(found):
            break
    return found


OF_THE_CURVE = "The intervals are those of the curve: they do not include the scatter of a new reading."


def _place(place: Place, naming: Naming, level: float, finer: int) -> str:
    clock = naming.x_on_clock(place.x).strip(" ()")
    x = with_interval(place.x, place.x_low, place.x_high, level, naming.x_unit, also=clock, finer=finer)
    text = f"{NAMES[place.kind]} at {naming.x} = {x}"
    if place.x_error is not None and not (math.isfinite(place.x_low) or math.isfinite(place.x_high)):
        text += f" (no finite {level_text(level)} limits)"
    if place.kind != "root":
        y = with_interval(place.y, place.y_low, place.y_high, level, naming.y_unit, finer=finer)
        text += f", {naming.y} = {y}"
    if place.beyond > 0 and math.isfinite(place.beyond_ranges):
        text += f"; extrapolation, {times(place.beyond_ranges)} times the measured range beyond the readings"
    return text


def word_quantity(quantity: Quantity, unit: str, level: float) -> str:
    """Value with its confidence interval."""
    if quantity.standard_error is None:
        return with_unit(significant(quantity.value, 6, strip=True).text, unit)
    return with_interval(quantity.value, quantity.low, quantity.high, level, unit)


def word_tangent(tangent: Tangent, naming: Naming, level: float) -> str:
    """The slope at a point, with its unit and interval."""
    at = naming.x_with_unit(significant(tangent.x, 6, strip=True).text)
    return f"slope at {naming.x} = {at}: {word_quantity(tangent.slope, naming.unit(-1, 1), level)}"
