"""Fits to shares of the readings in words: whether a curve holds on readings that it has not seen."""

from __future__ import annotations

import math

from ridge.core.judging.resampling import Movement
from ridge.core.wording.naming import Naming
from ridge.core.wording.numbers import significant

HOLDS, FOLLOWS = 1.4, 2.2
"""Miss of readings left out, in typical misses of the fit to all, up to which a curve holds and from which it follows scatter."""


def word_left_out(error: float, own: float | None, naming: Naming) -> str:
    """What the miss of readings left out says beside that of the fit to all of them (None where nothing scatters)."""
    if not math.isfinite(error):
        return "No share could be fitted, or none left a reading to be tried: choose a larger share or a simpler model."
    if not own:
        return f"Readings left out are missed by {naming.y_with_unit(significant(error, 2).text)}, typically."
    ratio = error / own
    missed = f"Readings left out are missed {significant(ratio, 2).text} times as far as those it is fitted to"
    if ratio <= HOLDS:
        return f"{missed}: it holds."
    if ratio <= FOLLOWS:
        return f"{missed}: some of what it follows is scatter, or the shares are small."
    return f"{missed}: it follows the scatter. Try a model with fewer parameters, or add readings."


def word_movement(found: Movement, naming: Naming) -> str:
    """How far the curves lie apart; empty where that is unknown."""
    if not math.isfinite(found.typical):
        return ""
    typical, largest = (naming.y_with_unit(significant(value, 2).text) for value in (found.typical, found.largest))
    at = f"{naming.x} = {naming.x_with_unit(significant(found.at, 3, strip=True).text)}"
    return f"From draw to draw the curve moves by {typical}, typically, and by {largest} at {at}."


def word_failed(failed: int, of: int) -> str:
    """How many draws could not be fitted; empty where all were."""
    return f"{failed} of {of} could not be fitted." if failed else ""
