"""How many bends picks show, and which degree and how many points a polynomial through them needs at least."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt


@dataclass(frozen=True)
class Bends:
    """``count`` of the places where the picks turn from rising to falling or the reverse. A polynomial with so many bends has a ``degree``
    of one more at least, since its slope has so many zeros, and that takes one point more again."""

    count: int

    @property
    def degree(self) -> int:
        return self.count + 1

    @property
    def points(self) -> int:
        return self.degree + 1


def count_bends(pixels: npt.ArrayLike, unsure: float = 2.0) -> Bends:
    """Bends of picks, shape (n, 2) in pixels, taken from left to right. Steps back by no more than ``unsure`` pixels are no bends: so far a
    pick may be off (common practice).

    >>> from ridge.pictures import count_bends
    >>> count_bends([(0, 0), (10, 30), (20, 31), (30, 5), (40, 40)]).count
    2
    """
    at = np.asarray(pixels, dtype=np.float64).reshape(-1, 2)
    heights = at[np.argsort(at[:, 0], kind="stable"), 1]
    heights = heights[np.isfinite(heights)]
    count, way, extreme = 0, 0, heights[0] if len(heights) else 0.0
    low = high = extreme
    for height in heights.tolist():
        if way == 0:
            low, high = min(low, height), max(high, height)
            if height - low > unsure:
                way, extreme = 1, height
            elif high - height > unsure:
                way, extreme = -1, height
        elif way * (height - extreme) >= 0:
            extreme = height
        elif way * (extreme - height) > unsure:
            count, way, extreme = count + 1, -way, height
    return Bends(count)
