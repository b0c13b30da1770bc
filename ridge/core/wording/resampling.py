"""Fits to subsets of the readings in words: whether a curve holds on readings that it has not seen."""

from __future__ import annotations

import math

from ridge.core.judging.resampling import Movement
from ridge.core.numerals import significant
from ridge.core.wording.naming import Naming

HOLDS, OVERFITS = 1.4, 2.2
"""Error on held-out readings, in typical misses of the fit to all, up to which there is no sign of overfitting and from which
there is (a judgement of Ridge's, not a published limit)."""


def word_left_out(error: float, own: float | None, naming: Naming) -> str:
    """What the error on held-out readings says beside that of the fit to all of them (None where nothing scatters)."""
    if not math.isfinite(error):
        return "No subset could be fitted, or none left a reading held out: choose a larger subset or a simpler model."
    if not own:
        return f"The error on held-out readings is {naming.y_with_unit(significant(error, 2).text)}."
    ratio = error / own
    said = f"The error on held-out readings is {significant(ratio, 2).text} times the typical miss"
    if ratio <= HOLDS:
        return f"{said}: no sign of overfitting."
    if ratio <= OVERFITS:
        return f"{said}: some overfitting, or the subsets are small."
    return f"{said}: overfitting. Try a model with fewer parameters, or add readings."


def word_movement(found: Movement, naming: Naming) -> str:
    """How far the curves lie apart; empty where that is unknown."""
    if not math.isfinite(found.typical):
        return ""
    typical, largest = (naming.y_with_unit(significant(value, 2).text) for value in (found.typical, found.largest))
    at = f"{naming.x} = {naming.x_with_unit(significant(found.at, 3, strip=True).text)}"
    return f"From subset to subset the curve moves by {typical}, typically, and by {largest} at {at}."


def word_failed(failed: int, of: int) -> str:
    """How many draws could not be fitted; empty where all were."""
    return f"{failed} of {of} could not be fitted." if failed else ""
