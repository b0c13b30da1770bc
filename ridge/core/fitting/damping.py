"""How a descent is damped and when it ends: the rules that every loop of damped steps keeps.

Levenberg and Marquardt's damping, eased and grown after Nielsen (IMM-REP-1999-05, Technical University of Denmark).
"""

from __future__ import annotations

from typing import overload

import numpy as np

from ridge.core.readings import Array, Mask

SETTLED = 1e-24
"""A step that promises no more than this share of the sum of squares is the last: twelve digits of each parameter stand."""
ROUNDING = 1e-13
"""Gains below this share of the sum of squares are lost in its rounding: such a step is taken on trust."""
LEAST = 1e-15
"""Damping below which a step is Gauss and Newton's own."""
MOST = 1e12
"""Damping at which no step is left: the descent is stuck."""
FIRST = 1e-3
"""Damping of a first step from a trial, and after a step that failed at least."""
GROWTH = 2.0
"""By which the damping grows after a step that failed, twice as much after each further one."""


LAST_DIGIT = 4e-16
"""A step by no more than this share of every parameter moves no digit of a double."""


@overload
def is_taken(gained: float, predicted: float, rss: float) -> bool: ...
@overload
def is_taken(gained: Array, predicted: Array, rss: Array) -> Mask: ...
def is_taken(gained: float | Array, predicted: float | Array, rss: float | Array) -> bool | Mask:
    """Whether a step counts as one downhill: the sum fell, or all that was promised lies within its rounding. One or many."""
    return (gained > 0) | ((predicted < ROUNDING * rss) & (gained > -ROUNDING * rss))


def eased(damping: float, ratio: float) -> float:
    """The damping after a step that gained ``ratio`` times what it promised: a third of it at best."""
    bend = 2 * min(ratio, 2.0) - 1
    return max(damping * max(1 / 3, 1 - bend * bend * bend), LEAST)


def eased_each(damping: Array, ratio: Array) -> Array:
    """The same for many at once: arrays are as slow for one number as loops are for many."""
    bend = 2 * np.minimum(ratio, 2.0) - 1
    return np.asarray(np.maximum(damping * np.maximum(1 / 3, 1 - bend * bend * bend), LEAST))
