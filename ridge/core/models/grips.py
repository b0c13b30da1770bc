"""What a family says about being set by hand: places of its curve to take hold of, and values read off the readings."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from ridge.core.readings import Array


@dataclass(frozen=True)
class Grip:
    """A place on the curve that can be taken hold of and moved.

    ``x`` and ``y``: where it is, as formulas in the parameters and in ``low``, ``middle`` and ``high`` of the measured
    range. ``sets``: what a parameter becomes when the place is moved to (``to_x``, ``to_y``), as formulas in the same
    names with the parameters as they were before. ``does``: what moving it does, as a phrase.
    """

    name: str
    x: str
    y: str
    sets: Mapping[str, str] = field(default_factory=dict)
    does: str = ""


@dataclass(frozen=True)
class Look:
    """What the eye sees of readings: x ascending with the y there, repeats averaged. At least two different x."""

    x: Array
    y: Array

    @property
    def first(self) -> tuple[float, float]:
        return float(self.x[0]), float(self.y[0])

    @property
    def last(self) -> tuple[float, float]:
        return float(self.x[-1]), float(self.y[-1])

    @property
    def middle(self) -> tuple[float, float]:
        place = len(self.x) // 2
        return float(self.x[place]), float(self.y[place])

    @property
    def highest(self) -> tuple[float, float]:
        place = int(np.argmax(self.y))
        return float(self.x[place]), float(self.y[place])

    @property
    def lowest(self) -> tuple[float, float]:
        place = int(np.argmin(self.y))
        return float(self.x[place]), float(self.y[place])

    def x_at(self, y: float) -> float:
        """x of the reading that comes nearest to a y."""
        return float(self.x[int(np.argmin(np.abs(self.y - y)))])

    def half_period(self) -> float:
        """Half the typical distance between neighbouring crossings of the middle height, times two: trough to crest."""
        above = self.y > (self.y.max() + self.y.min()) / 2
        crossings = np.flatnonzero(above[1:] != above[:-1])
        at = (self.x[crossings] + self.x[crossings + 1]) / 2
        if len(at) > 1:
            return float((at[-1] - at[0]) / (len(at) - 1))
        return abs(self.highest[0] - self.lowest[0]) or float(self.x[-1] - self.x[0])
