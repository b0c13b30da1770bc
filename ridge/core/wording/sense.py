"""Limits of sense in words."""

from __future__ import annotations

from math import isfinite
from typing import Literal

from ridge.core.numerals import significant
from ridge.core.predicting.sense import Sense
from ridge.core.wording.naming import Naming


def sense_of(naming: Naming, axis: Literal["x", "y"]) -> Sense:
    """Of the values of an axis, as the study's column has it."""
    return Sense(*(naming.x_limits if axis == "x" else naming.y_limits))


def word_sense(naming: Naming, axis: Literal["x", "y"]) -> str:
    """``v is at least 0 m/s (no negative speed)``; empty where anything goes."""
    sense = sense_of(naming, axis)
    symbol, with_unit = (naming.x, naming.x_with_unit) if axis == "x" else (naming.y, naming.y_with_unit)
    low, high = (with_unit(significant(end, 15, strip=True).text) for end in (sense.low, sense.high))
    if isfinite(sense.low) and isfinite(sense.high):
        said = f"{symbol} lies between {low} and {high}"
    elif isfinite(sense.low):
        said = f"{symbol} is at least {low}"
    elif isfinite(sense.high):
        said = f"{symbol} is at most {high}"
    else:
        return ""
    return f"{said} ({sense.why})" if sense.why else said
