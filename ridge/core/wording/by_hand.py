"""What each handle does to the curve, and how a given curve differs from a fitted one, in words."""

from __future__ import annotations

import numpy as np

from ridge.core.by_hand import Handle
from ridge.core.models import Model
from ridge.core.models.declared import About
from ridge.core.numerals import significant
from ridge.core.readings import Array
from ridge.core.wording.families import in_letters
from ridge.core.wording.naming import Naming


def what_it_does(model: Model, handle: Handle, naming: Naming) -> str:
    """What turning a parameter up does to the curve, in the study's own symbols."""
    if said := model.about.get(handle.name, About()).by_hand:
        return in_letters(said, naming)
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
