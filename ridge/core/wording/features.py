"""Features of a curve in sentences."""

from __future__ import annotations

import math

from ridge.core.predicting.features import Place, Quantity, Tangent
from ridge.core.wording.limits import level_text
from ridge.core.wording.naming import Naming, with_unit
from ridge.core.wording.numbers import significant
from ridge.core.wording.rounding import round_with_uncertainty

_NAMES = {
    "root": "zero", "maximum": "highest point", "minimum": "lowest point", "inflexion": "inflexion", "crossing": "crossing",
}  # fmt: skip


def word_place(place: Place, naming: Naming) -> str:
    """``lowest point at t = 5.007 ± 0.006 s, h = −3.99 ± 0.05 m``, with standard errors."""
    x = naming.x_with_unit(round_with_uncertainty(place.x, place.x_error).text)
    text = f"{_NAMES[place.kind]} at {naming.x} = {x}"
    if place.kind != "root":
        text += f", {naming.y} = {naming.y_with_unit(round_with_uncertainty(place.y, place.y_error).text)}"
    if place.beyond > 0 and math.isfinite(place.beyond_ranges):
        text += f"; {significant(place.beyond_ranges, 2).text} measured ranges beyond the readings"
    return text


def word_quantity(quantity: Quantity, unit: str, level: float) -> str:
    """Value with its half-width at ``level``."""
    if quantity.standard_error is None:
        return with_unit(significant(quantity.value, 6, strip=True).text, unit)
    half = quantity.high - quantity.value
    return f"{with_unit(round_with_uncertainty(quantity.value, half).text, unit)} ({level_text(level)})"


def word_tangent(tangent: Tangent, naming: Naming, level: float) -> str:
    """The slope at a point, with its unit and limits."""
    at = naming.x_with_unit(significant(tangent.x, 6, strip=True).text)
    return f"slope at {naming.x} = {at}: {word_quantity(tangent.slope, naming.unit(-1, 1), level)}"
